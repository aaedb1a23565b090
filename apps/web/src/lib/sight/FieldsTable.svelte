<script lang="ts">
  import { bothSides, fieldTable, type AddressScene } from '@fadenkreuz/core';
  import type { LongColumn } from '$lib/controls/longColumn.js';
  import LongTable from '$lib/controls/LongTable.svelte';

  /** The fields of an image as rows, with the columns that any of them fills. */
  let { scene }: { scene: AddressScene } = $props();

  const image = $derived(scene.image);
  const table = $derived(fieldTable(image));
  const titles = $derived(table[0] ?? []);
  const rows = $derived(table.slice(1).map((cells, at) => ({ at, cells })));
  type Row = (typeof rows)[number];
  /** Indices of the columns that are shown. */
  const filled = $derived(titles.flatMap((_, i) => (rows.some(({ cells }) => cells[i]) ? [i] : [])));
  const address = $derived(titles.findIndex((t) => t.startsWith('address')));
  const bitOf = ({ cells }: Row) => {
    const [byte = 0, bit = 0] = (cells[address] ?? '').split('.').map(Number);
    return byte * 8 + bit;
  };
  const columns: LongColumn<Row>[] = $derived([
    { id: 'controller', title: 'controller', sort: bitOf },
    ...filled.map((i) => ({ id: titles[i]!, title: titles[i]!, sort: ({ cells }: Row) => cells[i] ?? '' })),
  ]);
</script>

<LongTable
  label="fields of the image"
  {rows}
  {columns}
  key={(row) => String(row.at)}
  empty="No fields yet."
  rowHeight={26}
  class="min-h-0 flex-1 rounded-field border border-base-300"
>
  {#snippet cells(row)}
    <td class="font-mono text-faint"
      >{bitOf(row) < image.size * 8 ? bothSides(scene, bitOf(row)).controller.text : 'past the end'}</td
    >
    {#each filled as i (i)}<td class="max-w-64 font-mono break-words">{row.cells[i]}</td>{/each}
  {/snippet}
</LongTable>
