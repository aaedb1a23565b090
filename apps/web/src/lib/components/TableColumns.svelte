<script lang="ts">
  import { columnNames, columns, type Column } from '@fadenkreuz/core';

  /** The first pasted rows under what each column is taken for. */
  interface Props {
    rows: string[][];
    headed: boolean;
    chosen: (Column | null)[];
    onchoose: (column: number, as: Column | null) => void;
  }
  let { rows, headed, chosen, onchoose }: Props = $props();

  const shownRows = 7;
  const short = (column: Column) => columns[column].title.replace(/ \(.*/, '');
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
              {#each columnNames as name (name)}<option value={name}>{short(name)}</option>{/each}
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
                'max-w-56 truncate border-b border-base-300 px-2 py-0.5 font-mono',
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
