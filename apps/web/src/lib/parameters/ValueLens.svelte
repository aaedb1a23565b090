<script lang="ts">
  import type { ComparedParameter, Device } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { clockText } from '$lib/bench/benchTexts.js';
  import { maxPicks } from '$lib/desk/recorder.svelte.js';
  import { stepsFor } from './counting.js';
  import RequestBytes from './RequestBytes.svelte';

  /** The value of one parameter: read and written by itself, with what stood on the wire. */
  let { device, row }: { device: Device; row: ComparedParameter } = $props();
  const desk = useDesk();
  const { parameter } = $derived(row);
  const value = $derived(desk.parameters.of(device.id, parameter.id));
  const now = $derived(row.values.device);
  const planned = $derived(row.values.planned);
  const watched = $derived(
    desk.parameters.watched.find((w) => w.device === device.id && w.parameter === parameter.id),
  );

  function write() {
    if (!planned || !('hex' in planned)) return;
    const steps = stepsFor(device, new Map([[parameter.id, planned.hex]]), desk.parameters.readOf(device.id));
    void desk.parameters.write(device.id, steps);
  }
  /** Reads it again and again, every so many ms; 0: no more. */
  function watch(everyMs: number) {
    const others = desk.parameters.watched.filter(
      (w) => w.device !== device.id || w.parameter !== parameter.id,
    );
    const own = { device: device.id, parameter: parameter.id, everyMs };
    void desk.parameters.watch(everyMs > 0 ? [...others, own] : others);
  }
  const signal = $derived(`${device.id} ${parameter.id}`);
  function chart() {
    if (!watched && !desk.recorder.picked(signal)) watch(500);
    const taken = desk.recorder.toggle({
      ...{ signal, image: '', parameter: { device: device.id, id: parameter.id }, device: device.name },
      ...{ name: parameter.name, unit: parameter.unit, direction: 'feedback', bit: parameter.bits === 1 },
    });
    if (taken) return;
    desk.note = {
      says: `${parameter.name} is not recorded: ${maxPicks} signals are recorded already.`,
      cure: 'Take another one out of the chart first.',
    };
  }
  const remarks = $derived(
    [
      parameter.stopFirst && 'It can be written only while the device stands still.',
      parameter.afterRestart && 'A new value acts after the next start of the device.',
      parameter.retained === 'after saving' && 'It is lost with the power unless it is saved to memory.',
      parameter.retained === 'never' && 'It is lost with the power.',
      parameter.key &&
        `It is opened by ${parameter.key.code} = ${parameter.key.raw}; that is written and taken back by itself.`,
    ].filter((text): text is string => typeof text === 'string'),
  );
</script>

<dl class="text-[13px]">
  {#if now && 'text' in now}
    <div class="lens-row">
      <dt>in the device</dt>
      <dd class="font-mono">{now.text}</dd>
    </div>
    <div class="lens-row">
      <dt>raw number</dt>
      <dd class="font-mono">{now.raw}</dd>
    </div>
    <div class="lens-row">
      <dt>bytes on the wire</dt>
      <dd class="font-mono">{now.hex}</dd>
    </div>
  {/if}
  {#if value}
    <div class="lens-row">
      <dt>answered in</dt>
      <dd class="font-mono">{value.ms.toFixed(1)} ms</dd>
    </div>
    <div class="lens-row">
      <dt>at</dt>
      <dd class="font-mono">{clockText(value.at)}</dd>
    </div>
  {/if}
</dl>
{#if value?.problem}
  <p class="my-1 text-xs text-error">
    {value.problem.says} <span class="text-base-content">{value.problem.cure}</span>
  </p>
{/if}
{#each remarks as remark (remark)}<p class="text-xs text-faint">{remark}</p>{/each}
<div class="mt-1 flex flex-wrap gap-1">
  <button
    class="btn btn-sm"
    disabled={!desk.running || parameter.access === 'write'}
    onclick={() => desk.parameters.read(device.id, [parameter.id])}>Read</button
  >
  <button
    class="btn btn-sm"
    disabled={!desk.armed || !planned || !('hex' in planned) || parameter.access === 'read'}
    title={desk.armed ? undefined : 'Writes to the device: arm first.'}
    onclick={write}>Write {planned && 'text' in planned ? planned.text : 'the planned value'}</button
  >
</div>
<label class="lens-row mt-1">
  read every
  <select
    class="select w-28 select-sm"
    disabled={!desk.running || parameter.access === 'write'}
    value={String(watched?.everyMs ?? 0)}
    onchange={({ currentTarget }) => watch(Number(currentTarget.value))}
  >
    <option value="0">–</option>
    {#each [100, 500, 1000, 5000, 60_000] as ms (ms)}<option value={String(ms)}
        >{ms < 1000 ? `${ms} ms` : `${ms / 1000} s`}</option
      >{/each}
  </select>
</label>
{#if parameter.type !== 'STRING' && parameter.type !== 'BYTES' && parameter.access !== 'write'}
  <label class="lens-row">
    in the chart of the bench
    <input
      type="checkbox"
      class="checkbox checkbox-sm"
      disabled={!desk.running}
      checked={desk.recorder.picked(signal)}
      onchange={({ currentTarget }) => {
        chart();
        currentTarget.checked = desk.recorder.picked(signal);
      }}
    />
  </label>
{/if}
{#if value}<RequestBytes {device} {parameter} at={value.number} />{/if}
