<script lang="ts">
  /** Rows of a pasted table that were not understood, with the reason. */
  let { rows }: { rows: readonly { row: number; text: string; reason: string }[] } = $props();

  const shownRows = 60;
</script>

{#if rows.length}
  <h3 class="lens-heading">Rows not read</h3>
  {#each rows.slice(0, shownRows) as { row, text, reason } (row)}
    <p class="border-b border-base-300 py-1 text-xs">
      <b class="font-mono">{row}</b>
      {reason}
      <span class="block truncate font-mono text-faint" title={text}>{text}</span>
    </p>
  {/each}
{/if}
