<script lang="ts">
  import { bothSides, type ReadTexts, type TextChange } from '@fadenkreuz/core';
  import type { LongColumn } from '$lib/controls/longColumn.js';
  import LongTable from '$lib/controls/LongTable.svelte';

  /** What names and comments of a pasted table would change, text by text. */
  let { texts }: { texts: ReadTexts } = $props();

  const columns: LongColumn<TextChange>[] = [
    { id: 'device', title: 'device', sort: (c) => c.scene.device.name },
    { id: 'signal', title: 'signal', sort: (c) => c.field.name },
    { id: 'address', title: 'address' },
    { id: 'what', title: 'what', sort: (c) => c.what },
    { id: 'now', title: 'now', sort: (c) => c.before },
    { id: 'becomes', title: 'becomes', sort: (c) => c.after },
  ];
</script>

<LongTable
  label="texts that would change"
  rows={texts.changes}
  {columns}
  key={({ row, what }) => `${row} ${what}`}
  empty="No text would change."
  class="min-h-0 flex-1 rounded-field border border-base-300"
>
  {#snippet cells({ scene, field, bit, what, before, after })}
    <td class="font-mono">{scene.device.name} {scene.image.direction === 'command' ? '▸' : '◂'}</td>
    <td class="font-mono break-words">{field.name}</td>
    <td class="font-mono">{bothSides(scene, field.at + (bit ?? 0)).controller.text}</td>
    <td>{what}</td>
    <td class="break-words text-faint">{before || '–'}</td>
    <td class="font-semibold break-words">{after}</td>
  {/snippet}
</LongTable>
