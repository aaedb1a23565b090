<script lang="ts" generics="Column extends string">
  import type { Columns } from '@fadenkreuz/core';

  /** The first pasted rows under what each column is taken for. */
  interface Props {
    rows: string[][];
    headed: boolean;
    /** What a column can be, and what each one is taken for. */
    known: Columns<Column>;
    chosen: (Column | null)[];
    onchoose: (column: number, as: Column | null) => void;
  }
  let { rows, headed, known, chosen, onchoose }: Props = $props();

  const names = $derived(Object.keys(known) as Column[]);

  const shownRows = 7;
  const short = (column: Column) => known[column].title.replace(/ \(.*/, '');
</script>

<div class="max-h-56 shrink-0 overflow-auto rounded-field border border-base-300 bg-base-100">
  <table class="border-collapse text-xs" aria-label="pasted rows">
    <thead class="sticky top-0 bg-base-100">
      <tr>
        {#each chosen as column, i (i)}
          <th class="border-b border-base-300 p-1 text-left font-normal">
            <select
              class="inplace cursor-pointer font-semibold"
              aria-label="column {i + 1} is"
              value={column ?? ''}
              onchange={(event) => onchoose(i, (event.currentTarget.value || null) as Column | null)}
            >
              <option value="">not used</option>
              {#each names as name (name)}<option value={name}>{short(name)}</option>{/each}
            </select>
          </th>
        {/each}
      </tr>
    </thead>
    <tbody>
      {#each rows.slice(0, shownRows) as row, r (r)}
        <tr class={[headed && r === 0 && 'text-faint italic']}>
          {#each chosen as column, i (i)}
            <td
              class={[
                'max-w-56 border-b border-base-300 px-2 py-0.5 font-mono wrap-anywhere',
                !column && 'text-faint',
              ]}>{row[i] ?? ''}</td
            >
          {/each}
        </tr>
      {/each}
    </tbody>
  </table>
  {#if rows.length > shownRows}
    <p class="px-2 py-1 text-xs text-faint">and {rows.length - shownRows} more rows</p>
  {/if}
</div>
