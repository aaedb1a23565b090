<script lang="ts">
  import {
    registerTables,
    tableUnits,
    wholeEntry,
    type ParameterReading,
    type ReadParameters,
  } from '@fadenkreuz/core';
  import type { Snippet } from 'svelte';
  import RowsNotRead from '$lib/controls/RowsNotRead.svelte';

  interface Props {
    reading: ParameterReading;
    read: ReadParameters;
    onchange: (reading: ParameterReading) => void;
    /** What can be done with it. */
    children: Snippet;
  }
  /** How a table of parameters is read, corrected here, and which rows were not understood. */
  let { reading, read, onchange, children }: Props = $props();

  const set = (values: Partial<ParameterReading>) => onchange({ ...reading, ...values });
  const registers = $derived(reading.columns.includes('register'));
  const [instances, classes, attributes] = $derived(
    (['instance', 'class', 'attribute'] as const).map((c) => reading.columns.includes(c)),
  );
  const lengths = $derived(reading.columns.includes('length'));
</script>

<h2 class="text-lg font-semibold">
  {read.parameters.length} parameters{read.bad.length ? `, ${read.bad.length} rows not read` : ''}
</h2>
<p class="text-faint">Nothing is changed before you take them.</p>
<h3 class="lens-heading">How it is read</h3>
<label class="lens-row">
  first row holds headings
  <input
    type="checkbox"
    class="checkbox checkbox-sm"
    checked={reading.headed}
    onchange={({ currentTarget }) => set({ headed: currentTarget.checked })}
  />
</label>
{#if registers}
  <label class="lens-row">
    registers are
    <select
      class="inplace cursor-pointer"
      value={reading.registers}
      onchange={({ currentTarget }) =>
        set({ registers: currentTarget.value as ParameterReading['registers'] })}
    >
      {#each registerTables as table (table)}<option value={table}>{table}</option>{/each}
    </select>
  </label>
  <label class="lens-row">
    the first register is
    <input
      class="inplace w-24 border-base-300 text-right font-mono"
      type="number"
      min="0"
      value={reading.base}
      oninput={({ currentTarget }) => set({ base: currentTarget.valueAsNumber || 0 })}
    />
  </label>
{/if}
{#if reading.columns.includes('code') && !instances && !registers}
  {#each [['instanceOf', 'instance'], ['attributeOf', 'attribute']] as const as [key, title] (key)}
    <label class="lens-row" title="the numbers of a code such as 6.10 are menu and number">
      {title} by the code
      <input
        class="inplace w-36 border-base-300 text-right font-mono"
        placeholder={key === 'instanceOf' ? 'such as menu' : 'such as number'}
        value={reading[key]}
        onchange={({ currentTarget }) => set({ [key]: currentTarget.value })}
      />
    </label>
  {/each}
{/if}
{#if instances || reading.instanceOf.trim() !== ''}
  {#each [['objectClass', 'class', classes], ['attribute', 'attribute', attributes]] as const as [key, title, said] (key)}
    {#if !said && !(key === 'attribute' && reading.attributeOf.trim() !== '')}
      <label class="lens-row">
        {title} of the instances
        <input
          class="inplace w-24 border-base-300 text-right font-mono"
          placeholder={key === 'objectClass' ? 'such as 16#0F' : 'such as 1'}
          value={reading[key] ?? ''}
          onchange={({ currentTarget }) => set({ [key]: wholeEntry(currentTarget.value) ?? null })}
        />
      </label>
    {/if}
  {/each}
{/if}
{#if lengths}
  <label class="lens-row">
    lengths count
    <select
      class="inplace cursor-pointer"
      value={reading.lengthUnit}
      onchange={({ currentTarget }) =>
        set({ lengthUnit: currentTarget.value as ParameterReading['lengthUnit'] })}
    >
      {#each Object.keys(tableUnits).filter((u) => u !== 'signal') as unit (unit)}<option value={unit}
          >{unit}s</option
        >{/each}
    </select>
  </label>
{/if}
<label class="lens-row" title="15.0 in the table is the raw number 150; where a factor is given, that counts">
  the raw number lacks the point
  <input
    type="checkbox"
    class="checkbox checkbox-sm"
    checked={reading.pointAsWritten}
    onchange={({ currentTarget }) => set({ pointAsWritten: currentTarget.checked })}
  />
</label>
<div class="mt-3 flex flex-wrap gap-2">{@render children()}</div>
<RowsNotRead rows={read.bad} unused={read.unused} />
