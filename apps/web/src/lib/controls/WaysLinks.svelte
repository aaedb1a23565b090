<script lang="ts">
  interface Props {
    /** What these are ways to look at. */
    label: string;
    /** Path of the first one. */
    base: string;
    ways: readonly { path: string; title: string }[];
    here: string;
  }
  /** The ways to look at one thing, each a page of its own. */
  let { label, base, ways, here }: Props = $props();
</script>

<nav class="segment shrink-0" aria-label={label}>
  {#each ways as { path, title } (path)}
    <a
      href="{base}{path}"
      aria-current={here === path ? 'page' : undefined}
      class={[here === path && 'bg-primary text-primary-content']}>{title}</a
    >
  {/each}
</nav>
