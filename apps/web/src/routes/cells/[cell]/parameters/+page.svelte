<script lang="ts">
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import {
    compareParameters,
    guessParameters,
    parameterColumns,
    readParameters,
    restorable,
    type ComparedParameter,
    type ParameterColumn,
    type ParameterReading,
  } from '@fadenkreuz/core';
  import LensSection from '$lib/controls/LensSection.svelte';
  import DeviceCommands from '$lib/parameters/DeviceCommands.svelte';
  import ChoicePanel from '$lib/parameters/ChoicePanel.svelte';
  import ListFromDevice from '$lib/parameters/ListFromDevice.svelte';
  import PortsPanel from '$lib/parameters/PortsPanel.svelte';
  import SeriesPanel from '$lib/parameters/SeriesPanel.svelte';
  import CutWrites from '$lib/parameters/CutWrites.svelte';
  import OwnSets from '$lib/parameters/OwnSets.svelte';
  import SetsPanel from '$lib/parameters/SetsPanel.svelte';
  import CompareWith from '$lib/parameters/CompareWith.svelte';
  import { Comparison } from '$lib/parameters/comparison.svelte.js';
  import ValueLens from '$lib/parameters/ValueLens.svelte';
  import ValuesTable from '$lib/parameters/ValuesTable.svelte';
  import {
    intoPlan,
    planAsRead,
    planOne,
    stepsFor,
    toDevice,
    type Counts,
  } from '$lib/parameters/counting.js';
  import ParameterForm from '$lib/parameters/ParameterForm.svelte';
  import ParametersReading from '$lib/parameters/ParametersReading.svelte';
  import ParametersTable from '$lib/parameters/ParametersTable.svelte';
  import RowsEntry from '$lib/controls/RowsEntry.svelte';
  import TableColumns from '$lib/controls/TableColumns.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { newParameter, takeParameters } from '$lib/parameters/parameterEdits.js';
  import Plus from '@lucide/svelte/icons/plus';
  import { onMount } from 'svelte';
  import { SvelteMap } from 'svelte/reactivity';

  const desk = useDesk();
  const { devices } = $derived(desk.cell);
  const device = $derived(
    devices.find((d) => d.id === page.url.searchParams.get('device')) ?? desk.chosen ?? devices[0],
  );
  /** The list of what there is, or the values side by side. */
  let way = $state<'values' | 'list'>('values');
  let filter = $state('');
  let onlyDifferent = $state(false);
  const comparison = new Comparison(desk, () => device);
  const counts = new SvelteMap<string, Counts>();
  onMount(() => desk.parameters.follow());

  const values = $derived(comparison.values);
  const restored = $derived(values && device ? restorable(device, values) : undefined);
  const compared = $derived(
    device
      ? compareParameters(device.description.parameters, {
          device: desk.parameters.readOf(device.id),
          other: restored?.values,
        })
      : [],
  );
  const shown = $derived.by(() => {
    const words = filter.trim().toLowerCase().split(/\s+/).filter(Boolean);
    return compared.filter(
      ({ parameter: { code, name, group, note }, differs }) =>
        (!onlyDifferent || differs) &&
        words.every((word) => `${code} ${name} ${group} ${note}`.toLowerCase().includes(word)),
    );
  });
  const row = $derived(compared.find((r) => r.parameter.id === chosen?.id));
  const differences = $derived(compared.filter((r) => r.differs).length);
  const going = $derived(toDevice(compared, counts));
  const coming = $derived(device ? intoPlan(device, compared, counts) : undefined);
  const lastSeries = $derived(desk.parameters.series.at(-1));

  function count(parameter: string, side: Counts) {
    if (counts.get(parameter) === side) counts.delete(parameter);
    else counts.set(parameter, side);
  }
  /** All differences that are shown. */
  const countAll = (side: Counts) => countThese(shown, side);
  /** Those under one heading. */
  const countGroup = (group: string, side: Counts) =>
    countThese(
      shown.filter(({ parameter }) => parameter.group === group),
      side,
    );
  function countThese(rows: readonly ComparedParameter[], side: Counts) {
    for (const { parameter, values, differs } of rows) {
      if (!differs || parameter.access !== 'read-write') continue;
      if (side === 'other' ? values.other : values.planned && values.device) counts.set(parameter.id, side);
    }
  }
  async function write() {
    if (!device) return;
    const steps = stepsFor(device, going, desk.parameters.readOf(device.id));
    if ((await desk.parameters.write(device.id, steps)) !== undefined) counts.clear();
  }
  function takeIntoPlan() {
    if (coming && desk.edit(coming)) counts.clear();
  }
  let picked = $state<string | undefined>(page.url.searchParams.get('parameter') ?? undefined);
  const chosen = $derived(
    device?.description.parameters.find((p) => p.id === picked) ?? device?.description.parameters[0],
  );
  const wrong = $derived(new Set(desk.findings.flatMap((f) => f.place.parameter ?? [])));

  /** The rows that were pasted or opened; undefined while the present parameters are shown. */
  let rows = $state.raw<string[][]>();
  let reading = $state.raw<ParameterReading>();
  const read = $derived(rows && reading && readParameters(rows, reading, () => crypto.randomUUID()));

  function start(next: string[][]) {
    rows = next;
    reading = guessParameters(next);
  }
  function chooseColumn(at: number, as: ParameterColumn | null) {
    if (!reading) return;
    const columns = reading.columns.map((column, i) => (i === at ? as : column === as ? null : column));
    reading = { ...reading, columns };
  }
  const leave = () => (rows = reading = undefined);
  function take(replace: boolean) {
    if (device && read && desk.edit(takeParameters(device, read, replace))) leave();
  }
  function add() {
    if (!device) return;
    const parameter = newParameter(device, () => crypto.randomUUID());
    const title = `add ${parameter.name}`;
    if (desk.edit({ edit: 'parameters.arrange', device: device.id, title, parameters: [parameter] }))
      picked = parameter.id;
  }
  const files = $derived(`/api/cells/${desk.cell.id}/devices/${device?.id}/parameters`);
</script>

<View lensTitle="Parameter">
  {#snippet main()}
    <CutWrites />
    <div class="flex h-full flex-col">
      <div class="mb-3 flex items-center gap-3">
        <h1 class="text-lg font-semibold">Parameters</h1>
        <div class="segment" role="group" aria-label="what is shown of parameters">
          <button aria-pressed={way === 'values'} onclick={() => (way = 'values')}>Values</button>
          <button aria-pressed={way === 'list'} onclick={() => (way = 'list')}>List and import</button>
        </div>
        <input
          class="input ml-auto w-36 input-sm"
          placeholder="filter"
          aria-label="filter"
          bind:value={filter}
        />
      </div>
      {#if device}
        <div class="mb-3 flex items-center gap-3">
          <LongSelect
            class="max-w-[36rem] font-mono text-lg leading-tight font-semibold"
            text={`${device.name}${device.description.parameters.length ? ` (${device.description.parameters.length})` : ''}`}
            aria-label="device"
            value={device.id}
            onchange={({ currentTarget }) => {
              leave();
              counts.clear();
              comparison.clear();
              desk.choose(currentTarget.value);
              void goto(`?device=${currentTarget.value}`, { replaceState: true, keepFocus: true });
            }}
          >
            {#each devices as d (d.id)}<option value={d.id}
                >{d.name}{d.description.parameters.length
                  ? ` (${d.description.parameters.length})`
                  : ''}</option
              >{/each}
          </LongSelect>
          {#if way === 'values' && !rows}
            <label class="ml-auto flex items-center gap-1.5 text-xs whitespace-nowrap">
              <input type="checkbox" class="checkbox checkbox-sm" bind:checked={onlyDifferent} />only
              differences ({differences})
            </label>
            <button
              class="btn btn-sm"
              disabled={!desk.running}
              title={desk.running ? undefined : 'The bench does not run.'}
              onclick={() => desk.parameters.read(device.id)}>Read all</button
            >
          {:else if !rows}
            <ListFromDevice {device} />
            <a class="btn ml-auto btn-sm" href="{files}/csv" download>CSV</a>
            <a class="btn btn-sm" href="{files}/xlsx" download>XLSX</a>
            <button class="btn btn-sm" onclick={add}
              ><Plus size={15} aria-hidden="true" />Add parameter</button
            >
          {/if}
        </div>
        {#if rows && reading && read}
          <TableColumns
            {rows}
            headed={reading.headed}
            known={parameterColumns}
            chosen={reading.columns}
            onchoose={chooseColumn}
          />
          <h2 class="mt-3 mb-1 font-semibold">As it is understood</h2>
          <ParametersTable parameters={read.parameters} />
        {:else if way === 'values'}
          <ValuesTable
            rows={shown}
            known={(id) => desk.parameters.of(device.id, id)}
            otherTitle={comparison.title}
            oncountgroup={countGroup}
            {counts}
            oncount={count}
            onplan={(id, typed) => {
              const parameter = device.description.parameters.find((p) => p.id === id);
              return parameter ? desk.edit(planOne(device, parameter, typed)) : false;
            }}
            chosen={chosen?.id}
            onchoose={(id) => (picked = id)}
            {wrong}
          />
          {#if differences > 0 || going.size > 0 || coming}
            <div class="mt-2 flex flex-wrap items-center gap-2 border-t border-base-300 pt-2">
              <button class="btn btn-sm" onclick={() => countAll('planned')}>All: the plan counts</button>
              <button class="btn btn-sm" onclick={() => countAll('device')}>All: the device counts</button>
              {#if restored}<button class="btn btn-sm" onclick={() => countAll('other')}
                  >All: {comparison.title} counts</button
                >{/if}
              <span class="ml-auto"></span>
              {#if coming}<button class="btn btn-sm" onclick={takeIntoPlan}
                  >Take {coming.parameters?.length} into the plan</button
                >{/if}
              {#if going.size > 0}<button
                  class="btn btn-primary btn-sm"
                  disabled={!desk.armed}
                  title={desk.armed ? undefined : 'Writes to the device: arm first.'}
                  onclick={write}>Write {going.size} to the device</button
                >{/if}
            </div>
          {/if}
        {:else}
          <ParametersTable
            parameters={shown.map((r) => r.parameter)}
            {wrong}
            chosen={chosen?.id}
            onchoose={(id) => (picked = id)}
          />
          <div class="mt-4 flex flex-col gap-2">
            <RowsEntry placeholder="Code, Name, Register, Type, Range, Default, Unit" onrows={start} />
          </div>
        {/if}
      {:else}
        <p class="text-faint">The line-up has no device yet.</p>
      {/if}
    </div>
  {/snippet}
  {#snippet lens()}
    {#if rows && reading && read}
      <ParametersReading {reading} {read} onchange={(next) => (reading = next)}>
        <button
          class="btn btn-primary btn-sm"
          disabled={read.parameters.length === 0}
          onclick={() => take(false)}>Take {read.parameters.length} parameters</button
        >
        {#if device?.description.parameters.length}
          <button class="btn btn-sm" disabled={read.parameters.length === 0} onclick={() => take(true)}
            >Take them instead of the {device.description.parameters.length}</button
          >
        {/if}
        <button class="btn btn-sm" onclick={leave}>Cancel</button>
      </ParametersReading>
    {:else if device && chosen}
      {#if way === 'values'}
        <h2 class="text-lg font-semibold break-words">{chosen.name}</h2>
        {#if row}<LensSection title="Value"><ValueLens {device} {row} /></LensSection>{/if}
        {#if lastSeries}<LensSection title="Last series"
            ><SeriesPanel series={lastSeries} {device} /></LensSection
          >{/if}
        {#if device.description.parameters.some((p) => p.role?.is === 'device command')}<LensSection
            title="Save and restart"
            open={false}><DeviceCommands {device} /></LensSection
          >{/if}
        {#if device.kind === 'IO-Link master' || device.description.ports.length > 0}<LensSection
            title="Ports"><PortsPanel {device} /></LensSection
          >{/if}
        <LensSection title="Sets with reasons"><SetsPanel {device} /></LensSection>
        <LensSection title="Sets of your own"
          >{#key device.id}<OwnSets {device} />{/key}</LensSection
        >
        {#if device.description.chosen.length > 0}<LensSection title="Cyclic parameters"
            ><ChoicePanel {device} /></LensSection
          >{/if}
        <LensSection title="Compare and keep">
          <button
            class="btn mb-2 btn-sm"
            disabled={desk.parameters.readOf(device.id).size === 0}
            onclick={() => {
              const edit = planAsRead(device, compared);
              if (edit) desk.edit(edit);
            }}>Plan everything as it stands in the device</button
          >
          <CompareWith {device} {comparison} {restored} onrestore={() => countAll('other')} />
        </LensSection>
      {/if}
      <LensSection title="Definition" open={way === 'list'}>
        {#key chosen.id}<ParameterForm
            {device}
            parameter={chosen}
            onremoved={() => (picked = undefined)}
          />{/key}
      </LensSection>
    {:else}
      <h2 class="text-lg font-semibold">Parameters</h2>
      <p class="mt-1 text-faint">
        What is read and set by requests, beside the cyclic images. They come with a describer, out of the
        table of a manual, or one by one.
      </p>
    {/if}
  {/snippet}
</View>
