<script lang="ts">
  import ArmLine from '$lib/bench/ArmLine.svelte';
  import StationsLine from '$lib/beam/StationsLine.svelte';
  import WhatStopsIt from '$lib/beam/WhatStopsIt.svelte';
  import BenchStrip from '$lib/bench/BenchStrip.svelte';
  import BenchTable from '$lib/bench/BenchTable.svelte';
  import DeviceSide from '$lib/bench/DeviceSide.svelte';
  import DeviceState from '$lib/bench/DeviceState.svelte';
  import FaultPanel from '$lib/bench/FaultPanel.svelte';
  import LiveFields from '$lib/bench/LiveFields.svelte';
  import MachineTable from '$lib/bench/MachineTable.svelte';
  import PinnedValues from '$lib/bench/PinnedValues.svelte';
  import SignalChart from '$lib/bench/SignalChart.svelte';
  import TraceList from '$lib/bench/TraceList.svelte';
  import WhatChanged from '$lib/bench/WhatChanged.svelte';
  import View from '$lib/frame/View.svelte';
  import { actingByRoles, radixes, type Radix } from '@fadenkreuz/core';
  import { ageText } from '$lib/bench/benchTexts.js';
  import { rememberedOpen } from '$lib/controls/remembered.svelte.js';
  import { page } from '$app/state';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import Play from '@lucide/svelte/icons/play';
  import Square from '@lucide/svelte/icons/square';

  const desk = useDesk();
  const chosen = $derived(desk.chosen?.id);
  let changing = $state(false);
  const asked = page.url.searchParams.get('part');
  let part = $state<'values' | 'side' | 'machine' | 'changed' | 'chart' | 'trace'>(
    asked === 'changed' ? asked : 'values',
  );
  let radix = $state<'' | Radix>('');

  /** Of more devices than this the table is folded to a strip, until somebody opens it. */
  const fewDevices = 6;
  const table = rememberedOpen('bench table open', desk.cell.devices.length <= fewDevices);

  const device = $derived(desk.chosen);
  const link = $derived(device?.links[0]);
  const acting = $derived(device && actingByRoles(device));
  const status = $derived(device && desk.linkStatus(device.id));
  $effect(() => {
    desk.live.show('bench', device?.links.map((l) => l.id) ?? []);
    return () => desk.live.show('bench', []);
  });
  const running = $derived(status && status.state !== 'no-stand-in' ? status : undefined);
  const run = $derived(desk.bench?.bench?.run ?? false);
  const parts = [
    ['values', 'Values'],
    ['side', 'Device’s side'],
    ['machine', 'Machine'],
    ['changed', 'What changed?'],
    ['chart', 'Chart'],
    ['trace', 'Trace'],
  ] as const;

  /** Why no value of the device is one of now. */
  const stale = $derived.by(() => {
    if (!running || running.state === 'open') return '';
    return running.ageMs === null ? 'no packet yet' : `last packet ${ageText(running.ageMs)} ago`;
  });

  async function turn() {
    changing = true;
    if (desk.running) await desk.ask('DELETE', '');
    else await desk.ask('POST', '', { cell: desk.cell.id });
    changing = false;
  }
</script>

<View lensTitle="State of the device">
  {#snippet main()}
    <div class="mb-2 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Bench</h1>
      <span class="text-faint">
        controller on <span class="font-mono"
          >127.{desk.cell.controller.address.split('.').slice(1).join('.')}</span
        >, each device on
        <span class="font-mono">127.…</span> of its own
      </span>
      <span class="ml-auto"></span>
      {#if desk.running}
        <span
          class="segment"
          role="group"
          aria-label="the controller's program"
          title={desk.armed ? '' : 'Arm first'}
        >
          <button
            aria-pressed={run}
            disabled={!desk.armed}
            onclick={() => desk.askArmed('/run', { run: true })}>run</button
          >
          <button
            aria-pressed={!run}
            disabled={!desk.armed}
            onclick={() => desk.askArmed('/run', { run: false })}>idle</button
          >
        </span>
      {/if}
      <button
        class="btn btn-ghost btn-sm"
        aria-pressed={table.value}
        title="all that is measured of each link, or a strip of the devices"
        onclick={() => (table.value = !table.value)}
        >{table.value ? 'Fold the table' : 'Table of links'}</button
      >
      <button class="btn btn-sm" disabled={changing || !desk.bench} onclick={turn}>
        {#if desk.running}<Square size={14} aria-hidden="true" />Stop{:else}<Play
            size={14}
            aria-hidden="true"
          />Start{/if}
      </button>
    </div>
    {#if table.value}
      <BenchTable {chosen} onchoose={(id) => desk.choose(id)} />
    {:else}
      <BenchStrip {chosen} onchoose={(id) => desk.choose(id)} />
    {/if}

    <div class="mt-4 mb-2 flex flex-wrap items-center gap-3">
      <span class="segment shrink-0" role="group" aria-label="what is shown below">
        {#each parts as [id, title] (id)}
          <button aria-pressed={part === id} onclick={() => (part = id)}
            >{title}{id === 'chart' && desk.recorder.picks.length
              ? ` ${desk.recorder.picks.length}`
              : ''}</button
          >
        {/each}
      </span>
      {#if part === 'values' || part === 'side'}
        <span class="min-w-0 font-mono font-semibold wrap-anywhere">{device?.name}</span>
        {#if part === 'values' && running}<ArmLine />{/if}
        <label class="ml-auto flex items-center gap-2">
          numbers
          <select class="select w-32 select-sm" bind:value={radix} aria-label="numbers shown as">
            <option value="">as laid out</option>
            {#each radixes as way (way)}<option>{way}</option>{/each}
          </select>
        </label>
      {/if}
    </div>
    {#if part === 'values' || part === 'side'}<PinnedValues />{/if}
    {#if part === 'changed'}
      <WhatChanged />
    {:else if part === 'chart'}
      <SignalChart />
    {:else if part === 'machine'}
      <MachineTable />
    {:else if part === 'side' && device && link}
      <DeviceSide {device} {link} {status} />
    {:else if part === 'trace'}
      <TraceList device={chosen} />
    {:else if device && link}
      <div class="grid grid-cols-2 gap-6">
        {#each [link.command, link.feedback] as image (image.id)}
          <LiveFields
            stale={image.direction === 'feedback' ? stale : ''}
            {device}
            {image}
            bytes={desk.bytes.get(image.id)}
            radix={radix || undefined}
            writable={image.direction === 'command' && desk.armed && running !== undefined}
            waits={status?.state !== 'open'}
          />
        {/each}
      </div>
    {/if}
  {/snippet}
  {#snippet lens()}
    {#if device}
      <p class="font-mono text-lg font-semibold break-words">{device.name}</p>
      <p class="text-faint">{[device.kind, device.serves].filter(Boolean).join(', ')}</p>
      <!-- Above all that comes and goes with the news: a button that moves between press and release is not pressed. -->
      {#if !status?.real}<FaultPanel {device} {status} />{/if}
      {#if running}
        <WhatStopsIt {device} />
        <StationsLine {device} />
        <DeviceState {device} status={running} />
      {:else if status?.reason}
        <p class="mt-2">{status.reason.says}</p>
        <p class="text-faint">{status.reason.cure}</p>
      {:else}
        <p class="mt-2 text-faint">The bench is stopped.</p>
      {/if}
      {#if running && !running.real}
        <p class="mt-2 text-faint">
          {acting
            ? `A stand-in that acts by its roles: ${acting.title}.`
            : 'A stand-in, as the device is described: what it shows is set on its own side, until its kind and roles say more.'}
          {#if !device.simulated}
            The real one is reached when Fadenkreuz is started with
            <span class="font-mono">--reach {desk.cell.network.subnet}</span>.
          {/if}
        </p>
      {/if}
    {/if}
  {/snippet}
</View>
