<script lang="ts">
  import type { ComparedParameter, Device } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { clockText } from '$lib/bench/benchTexts.js';
  import { stepsFor } from './counting.js';

  /** The value of one parameter: read and written by itself, with what stood on the wire. */
  let { device, row }: { device: Device; row: ComparedParameter } = $props();
  const desk = useDesk();
  const { parameter } = $derived(row);
  const value = $derived(desk.parameters.of(device.id, parameter.id));
  const now = $derived(row.values.device);
  const planned = $derived(row.values.planned);
  const watched = $derived(
    desk.parameters.watched.some((w) => w.device === device.id && w.parameter === parameter.id),
  );

  function write() {
    if (!planned || !('hex' in planned)) return;
    const steps = stepsFor(device, new Map([[parameter.id, planned.hex]]), desk.parameters.readOf(device.id));
    void desk.parameters.write(device.id, steps);
  }
  function watch() {
    const others = desk.parameters.watched.filter(
      (w) => w.device !== device.id || w.parameter !== parameter.id,
    );
    const own = { device: device.id, parameter: parameter.id, everyMs: 500 };
    void desk.parameters.watch(watched ? others : [...others, own]);
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
  <button class="btn btn-sm" aria-pressed={watched} disabled={!desk.running} onclick={watch}
    >{watched ? 'Stop reading it' : 'Read every 0.5 s'}</button
  >
</div>
