<script lang="ts" generics="T">
  import {
    createSortedRowModel,
    createTable,
    rowSortingFeature,
    sortFn_alphanumeric,
    tableFeatures,
    type ColumnDef,
  } from '@tanstack/svelte-table';
  import { createVirtualizer } from '@tanstack/svelte-virtual';
  import type { Snippet } from 'svelte';
  import { get } from 'svelte/store';
  import type { LongColumn } from './longColumn.js';
  import type { ClassValue } from 'svelte/elements';

  interface Props {
    label: string;
    rows: readonly T[];
    columns: readonly LongColumn<T>[];
    key: (row: T) => string;
    /** The cells of a row. */
    cells: Snippet<[T]>;
    /** Rows under one heading follow each other until they are sorted; empty for none. */
    group?: (row: T) => string;
    /** What stands behind a heading. */
    headingEnd?: Snippet<[string]>;
    empty: string;
    rowClass?: (row: T) => ClassValue;
    selected?: (row: T) => boolean;
    onchoose?: ((row: T) => void) | undefined;
    /** Of a row that is not in sight, px. */
    rowHeight?: number;
    class?: ClassValue;
  }
  /** A table of any number of rows, sorted by its headings; only the rows in sight are drawn. */
  let {
    label,
    rows,
    columns,
    key,
    cells,
    group = () => '',
    headingEnd,
    empty,
    rowClass = () => '',
    selected,
    onchoose,
    rowHeight = 30,
    class: boxClass = 'min-h-0 flex-1',
  }: Props = $props();

  const features = tableFeatures({
    rowSortingFeature,
    sortedRowModel: createSortedRowModel(),
    sortFns: { alphanumeric: sortFn_alphanumeric },
  });
  const table = createTable<typeof features, { row: T }>({
    features,
    get columns() {
      return columns.map(({ id, title, sort }): ColumnDef<typeof features, { row: T }> => ({
        id,
        header: title,
        accessorFn: ({ row }) => sort?.(row) ?? '',
        enableSorting: sort !== undefined,
        sortFn: 'alphanumeric',
        sortDescFirst: false,
      }));
    },
    get data() {
      return rows.map((row) => ({ row }));
    },
  });

  type Line = { key: string; heading: string } | { key: string; row: T; at: number };
  const sorting = $derived(table.atoms.sorting.get());
  const lines: Line[] = $derived.by(() => {
    const sorted = table.getRowModel().rows.map((r) => r.original.row);
    return sorted.flatMap((row, at): Line[] => {
      const heading = sorting.length === 0 ? group(row) : '';
      const before = at > 0 ? group(sorted[at - 1]!) : '';
      const line = { key: key(row), row, at };
      return heading && heading !== before ? [{ key: `heading ${line.key}`, heading }, line] : [line];
    });
  });

  let box = $state<HTMLDivElement>();
  const virtualizer = createVirtualizer<HTMLDivElement, HTMLTableRowElement>({
    count: 0,
    getScrollElement: () => box ?? null,
    estimateSize: () => rowHeight,
    overscan: 14,
  });
  $effect(() => {
    const shown = lines;
    get(virtualizer).setOptions({
      count: shown.length,
      getScrollElement: () => box ?? null,
      getItemKey: (i) => shown[i]?.key ?? i,
    });
  });
  const items = $derived($virtualizer.getVirtualItems().filter((item) => item.index < lines.length));
  const before = $derived(items[0]?.start ?? 0);
  const after = $derived(Math.max(0, $virtualizer.getTotalSize() - (items.at(-1)?.end ?? 0)));
  const measured = (element: HTMLTableRowElement) => get(virtualizer).measureElement(element);

  const orderOf = (id: string) => {
    const by = sorting.find((s) => s.id === id);
    return by ? (by.desc ? 'descending' : 'ascending') : 'none';
  };
</script>

<!-- It scrolls, so the keyboard must reach it (WCAG 2.2, 2.1.1). -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class={['overflow-auto', boxClass]} role="region" aria-label={label} tabindex="0" bind:this={box}>
  <table class="w-full border-collapse text-[13px]" aria-label={label} aria-rowcount={rows.length + 1}>
    <thead class="sticky top-0 z-[1] bg-base-200">
      <tr class="border-b border-base-content/60 text-left text-xs text-faint">
        {#each columns as { id, title, class: headClass, sort } (id)}
          {@const order = orderOf(id)}
          <th class={['px-2 py-1.5 font-medium', headClass]} aria-sort={sort ? order : undefined}>
            {#if sort}
              <button
                class="min-h-[24px] cursor-pointer whitespace-nowrap"
                title="sort by {title}"
                onclick={() => table.getColumn(id)?.toggleSorting()}
                >{title}<span aria-hidden="true"
                  >{order === 'ascending' ? ' ▴' : order === 'descending' ? ' ▾' : ''}</span
                ></button
              >
            {:else}{title}{/if}
          </th>
        {/each}
      </tr>
    </thead>
    <tbody>
      {#if before > 0}<tr aria-hidden="true" style:height="{before}px"><td></td></tr>{/if}
      {#each items as item (item.key)}
        {@const line = lines[item.index]!}
        {#if 'heading' in line}
          <tr data-index={item.index} {@attach measured}
            ><th colspan={columns.length} class="px-2 pt-2 text-left text-xs font-semibold"
              >{line.heading} {@render headingEnd?.(line.heading)}</th
            ></tr
          >
        {:else}
          {@const { row, at } = line}
          <tr
            data-index={item.index}
            aria-rowindex={at + 2}
            aria-selected={selected?.(row)}
            class={['border-b border-base-300 align-top [&>td]:px-2 [&>td]:py-1', rowClass(row)]}
            onclick={onchoose && (() => onchoose(row))}
            {@attach measured}>{@render cells(row)}</tr
          >
        {/if}
      {:else}
        {#if rows.length === 0}
          <tr><td colspan={columns.length} class="p-2 text-faint">{empty}</td></tr>
        {/if}
      {/each}
      {#if after > 0}<tr aria-hidden="true" style:height="{after}px"><td></td></tr>{/if}
    </tbody>
  </table>
</div>
