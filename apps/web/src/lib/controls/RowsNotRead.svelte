<script lang="ts">
  interface NotRead {
    row: number;
    text: string;
    reason: string;
  }
  /** What of a pasted table was not understood, with the reason: rows, cells of rows that were taken, and columns. */
  interface Props {
    rows: readonly NotRead[];
    cells?: readonly NotRead[];
    unused?: readonly string[];
  }
  let { rows, cells = [], unused = [] }: Props = $props();

  const shownRows = 60;
</script>

{#if unused.length}
  <h3 class="lens-heading">Columns not used</h3>
  <p class="text-xs">
    {#each unused as heading, i (i)}{i ? ', ' : ''}<span class="font-mono">{heading}</span>{/each}: choose
    above the rows what they are, or leave them out.
  </p>
{/if}
{#each [['Rows not read', rows], ['Entries not understood', cells]] as const as [title, list] (title)}
  {#if list.length}
    <h3 class="lens-heading">{title}</h3>
    {#each list.slice(0, shownRows) as { row, text, reason }, i (i)}
      <p class="border-b border-base-300 py-1 text-xs">
        <b class="font-mono">{row}</b>
        {reason}
        <span class="block min-w-0 font-mono wrap-anywhere text-faint" title={text}>{text}</span>
      </p>
    {/each}
    {#if list.length > shownRows}<p class="text-xs text-faint">and {list.length - shownRows} more</p>{/if}
  {/if}
{/each}
