<script lang="ts">
  import ConnectionTable from '$components/ConnectionTable.svelte';
  import LiveFields from '$components/LiveFields.svelte';
  import Trend from '$components/Trend.svelte';
  import View from '$components/View.svelte';
  import { signalsInside } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import Play from '@lucide/svelte/icons/play';
  import Square from '@lucide/svelte/icons/square';

  const desk = useDesk();
  let chosen = $state(desk.cell.devices.find((d) => d.standIn)?.id ?? desk.cell.devices[0]?.id);
  let changing = $state(false);
  let trendField = $state<string | undefined>();

  const device = $derived(desk.cell.devices.find((d) => d.id === chosen));
  const link = $derived(device?.links[0]);
  const feedback = $derived(link ? signalsInside(link.feedback) : []);
  const trend = $derived(
    feedback.find((s) => s.id === trendField) ?? feedback.find((s) => s.scale ?? s.decimals),
  );
  const run = $derived(desk.bench?.bench?.run ?? false);

  async function turn() {
    changing = true;
    if (desk.running) await desk.ask('DELETE', '');
    else await desk.ask('POST', '', { cell: desk.cell.id });
    changing = false;
  }
</script>

<View lensTitle="Feedback of the device">
  {#snippet main()}
    <div class="mb-3 flex items-center gap-3">
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
            onclick={() => desk.ask('POST', '/run', { run: true })}>run</button
          >
          <button
            aria-pressed={!run}
            disabled={!desk.armed}
            onclick={() => desk.ask('POST', '/run', { run: false })}>idle</button
          >
        </span>
      {/if}
      <button class="btn btn-sm" disabled={changing || !desk.bench} onclick={turn}>
        {#if desk.running}<Square size={14} aria-hidden="true" />Stop{:else}<Play
            size={14}
            aria-hidden="true"
          />Start{/if}
      </button>
    </div>
    <ConnectionTable {chosen} onchoose={(id) => (chosen = id)} />
    {#if device && link}
      <div class="mt-6 grid grid-cols-[minmax(0,5fr)_minmax(0,4fr)] gap-6">
        <div>
          <LiveFields
            {device}
            image={link.command}
            bytes={desk.bytes.get(link.command.id)}
            writable={desk.armed && desk.linkStatus(device.id)?.state === 'open'}
          />
          {#if desk.running && !desk.armed && device.standIn}
            <p class="mt-2 text-faint">Arm the bench, at the foot on the right, to write these.</p>
          {/if}
        </div>
        {#if trend && device.standIn}
          <section>
            <h2 class="font-semibold">{trend.name}{trend.unit ? `, ${trend.unit}` : ''}</h2>
            {#key trend.id}<Trend
                image={link.feedback}
                field={trend}
                bytes={desk.bytes.get(link.feedback.id)}
              />{/key}
          </section>
        {/if}
      </div>
    {/if}
  {/snippet}
  {#snippet lens()}
    {#if device && link}
      <p class="mb-3 font-mono text-lg font-semibold break-words">{device.name}</p>
      {#if !device.standIn}
        <p class="text-faint">No stand-in yet: this device is laid out, but does not run on the bench.</p>
      {/if}
      <LiveFields
        {device}
        image={link.feedback}
        bytes={desk.bytes.get(link.feedback.id)}
        chosen={trend?.id}
        onchoose={(signal) => (trendField = signal.id)}
      />
    {/if}
  {/snippet}
</View>
