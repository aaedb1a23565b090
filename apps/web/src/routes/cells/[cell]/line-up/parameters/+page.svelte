<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import LineUpLinks from '$lib/line-up/LineUpLinks.svelte';
  import ParameterForm from '$lib/parameters/ParameterForm.svelte';
  import ParametersReading from '$lib/parameters/ParametersReading.svelte';
  import ParametersTable from '$lib/parameters/ParametersTable.svelte';
  import RowsEntry from '$lib/controls/RowsEntry.svelte';
  import TableColumns from '$lib/controls/TableColumns.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { newParameter, takeParameters } from '$lib/parameters/parameterEdits.js';
  import {
    guessParameters,
    parameterColumns,
    readParameters,
    type ParameterColumn,
    type ParameterReading,
  } from '@fadenkreuz/core';
  import Plus from '@lucide/svelte/icons/plus';

  const desk = useDesk();
  const { devices } = $derived(desk.cell);
  const device = $derived(
    devices.find((d) => d.id === page.url.searchParams.get('device')) ??
      devices.find((d) => d.description.parameters.length > 0) ??
      devices[0],
  );
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
    <div class="mb-3 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Line-up</h1>
      <LineUpLinks here="/parameters" />
    </div>
    {#if device}
      <div class="mb-3 flex items-center gap-3">
        <select
          class="inplace max-w-64 cursor-pointer font-mono text-lg font-semibold"
          aria-label="device"
          value={device.id}
          onchange={({ currentTarget }) => {
            leave();
            void goto(`?device=${currentTarget.value}`, { replaceState: true, keepFocus: true });
          }}
        >
          {#each devices as d (d.id)}<option value={d.id}
              >{d.name}{d.description.parameters.length
                ? ` (${d.description.parameters.length})`
                : ''}</option
            >{/each}
        </select>
        {#if !rows}
          <a class="btn ml-auto btn-sm" href="{files}/csv" download>CSV</a>
          <a class="btn btn-sm" href="{files}/xlsx" download>XLSX</a>
          <button class="btn btn-sm" onclick={add}><Plus size={15} aria-hidden="true" />Add parameter</button>
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
      {:else}
        <ParametersTable
          parameters={device.description.parameters}
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
      {#key chosen.id}<ParameterForm
          {device}
          parameter={chosen}
          onremoved={() => (picked = undefined)}
        />{/key}
    {:else}
      <h2 class="text-lg font-semibold">Parameters</h2>
      <p class="mt-1 text-faint">
        What is read and set by requests, beside the cyclic images. They come with a describer, out of the
        table of a manual, or one by one.
      </p>
    {/if}
  {/snippet}
</View>
