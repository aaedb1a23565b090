<script lang="ts">
  import type { TableChoice, TablePreview } from './tablePreview.js';
  import { roleText, tableUnits, type TableReading, type TableUnit } from '@fadenkreuz/core';
  import type { Snippet } from 'svelte';
  import RowsNotRead from '$lib/controls/RowsNotRead.svelte';

  /** How a pasted table is read, corrected here; which rows were not understood; what the checks would say. */
  interface Props {
    choice: TableChoice;
    preview: TablePreview;
    /** Fields that the image has now. */
    present: number;
    onchange: (choice: TableChoice) => void;
    /** What can be done with it. */
    children: Snippet;
  }
  let { choice, preview, present, onchange, children }: Props = $props();

  const reading = $derived(choice.reading);
  const doubtful = $derived(preview.findings.find((f) => f.code === 'image.baseDoubtful'));
  const setReading = (values: Partial<TableReading>) =>
    onchange({ ...choice, reading: { ...reading, ...values } });
</script>

<h2 class="text-lg font-semibold">
  {preview.fields.length} fields{preview.bad.length ? `, ${preview.bad.length} rows not read` : ''}
</h2>
<p class="text-faint">Dashed on the tape; nothing is changed before you take them.</p>
<h3 class="lens-heading">Addresses</h3>
<label class="lens-row">
  count
  <select
    class="inplace cursor-pointer"
    aria-label="unit of the addresses"
    value={reading.addressUnit}
    onchange={(event) => setReading({ addressUnit: event.currentTarget.value as TableUnit })}
  >
    {#each Object.keys(tableUnits) as unit (unit)}<option value={unit}>{unit}s</option>{/each}
  </select>
</label>
<label class="lens-row">
  the first one is
  <input
    class="inplace w-20 border-base-300 text-right font-mono"
    type="number"
    min="0"
    aria-label="base of the addresses"
    value={reading.base}
    oninput={(event) => setReading({ base: event.currentTarget.valueAsNumber || 0, reason: '' })}
  />
</label>
{#if reading.reason}<p class="text-xs text-faint">{reading.reason}</p>{/if}
{#if doubtful}
  <div class="my-2 border-l-[3px] border-base-content pl-3">
    <p>{doubtful.says}</p>
    <button class="btn mt-1 btn-sm" onclick={() => setReading({ base: reading.base + 1, reason: '' })}
      >Count addresses from {reading.base + 1}</button
    >
  </div>
{/if}
<label class="lens-row">
  lengths count
  <select
    class="inplace cursor-pointer"
    aria-label="unit of the lengths"
    value={reading.lengthUnit}
    onchange={(event) => setReading({ lengthUnit: event.currentTarget.value as TableUnit })}
  >
    {#each Object.keys(tableUnits).filter((u) => u !== 'signal') as unit (unit)}<option value={unit}
        >{unit}s</option
      >{/each}
  </select>
</label>
<label class="lens-row">
  first row holds headings
  <input
    type="checkbox"
    class="checkbox checkbox-sm"
    checked={reading.headed}
    onchange={(event) => setReading({ headed: event.currentTarget.checked })}
  />
</label>
<h3 class="lens-heading">Image</h3>
<label class="lens-row">
  replace its {present} fields
  <input
    type="checkbox"
    class="checkbox checkbox-sm"
    checked={choice.replace}
    onchange={(event) => onchange({ ...choice, replace: event.currentTarget.checked })}
  />
</label>
<label class="lens-row">
  make it as long as the table
  <input
    type="checkbox"
    class="checkbox checkbox-sm"
    checked={choice.enlarge}
    onchange={(event) => onchange({ ...choice, enlarge: event.currentTarget.checked })}
  />
</label>
{#if preview.roles.length > 0}
  <label class="lens-row" title={preview.roles.map((p) => roleText(p.role)).join(', ')}>
    with {preview.roles.length} roles that their names say
    <input
      type="checkbox"
      class="checkbox checkbox-sm"
      checked={choice.roles}
      onchange={(event) => onchange({ ...choice, roles: event.currentTarget.checked })}
    />
  </label>
{/if}
<div class="mt-3 flex gap-2">{@render children()}</div>
<RowsNotRead rows={preview.bad} cells={preview.unread} unused={preview.unused} />
{#if preview.findings.length}
  <h3 class="lens-heading">The checks would say</h3>
  {#each preview.findings.slice(0, 30) as finding, i (i)}
    <p class="my-1 border-l-[3px] border-base-300 pl-2 text-xs">
      <b>{finding.severity}</b> · {finding.says}
    </p>
  {/each}
{/if}
