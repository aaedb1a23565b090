<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** The ways to look at an image. */
  let { here }: { here: 'tape' | 'table' | 'compare' | 'print' } = $props();
  const desk = useDesk();

  const ways = [
    { id: 'tape', path: '', title: 'Tape' },
    { id: 'table', path: '/table', title: 'Table' },
    { id: 'compare', path: '/compare', title: 'Compare' },
    { id: 'print', path: '/print', title: 'Print' },
  ] as const;
</script>

<nav class="segment" aria-label="ways to look at the image">
  {#each ways as { id, path, title } (id)}
    <a
      href="/cells/{desk.cell.id}/sight{path}"
      aria-current={here === id ? 'page' : undefined}
      class={[here === id && 'bg-primary text-primary-content']}>{title}</a
    >
  {/each}
</nav>
