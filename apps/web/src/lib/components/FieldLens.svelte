<script lang="ts">
  import {
    bothSides,
    fieldTypeNames,
    freeRuns,
    readout,
    type Device,
    type Field,
    type Image,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { newField, retypeField } from '$lib/desk/fieldEdits.js';
  import LensEntry from './LensEntry.svelte';

  interface Props {
    device: Device;
    image: Image;
    field: Field | undefined;
    bit: number;
    bytes: Uint8Array | undefined;
    nameInput?: HTMLInputElement | undefined;
  }
  let { device, image, field, bit, bytes, nameInput = $bindable() }: Props = $props();
  const desk = useDesk();

  const sides = $derived(bothSides(image, bit, desk.cell.controller.elementBits));
  const steps = $derived(field && bytes ? readout(field, bytes) : []);
  const findings = $derived(
    desk.findings.filter(
      (f) => f.place.image === image.id && (!f.place.field || f.place.field === field?.id),
    ),
  );
  const run = $derived(freeRuns(image).find((r) => r.at <= bit && bit < r.at + r.bits));

  const set = (values: Partial<Field>) =>
    field ? desk.edit({ edit: 'field.set', image: image.id, field: field.id, set: values }) : false;

  function setPlace(text: string): boolean {
    const match = /^\s*(-?\d+)(?:\s*[.·]\s*(\d+))?\s*$/.exec(text);
    return set({ at: match ? Number(match[1]) * 8 + Number(match[2] ?? 0) : NaN });
  }
  function setFactor(text: string): boolean {
    if (text.trim() === '') return set({ scale: null });
    const [numerator, denominator = '1'] = text.split('/');
    return set({
      scale: {
        numerator: Number(numerator),
        denominator: Number(denominator),
        offset: field?.scale?.offset ?? 0,
      },
    });
  }
  function setOffset(text: string): boolean {
    const scale = field?.scale ?? { numerator: 1, denominator: 1, offset: 0 };
    return set({ scale: { ...scale, offset: Number(text.replace(',', '.')) } });
  }
  function setLabels(text: string): boolean {
    const labels = text
      .split(/[,;]/)
      .map((part) => part.trim())
      .filter(Boolean)
      .map((part) => {
        const [value, ...words] = part.split('=');
        return { value: words.length ? Number(value) : NaN, text: words.join('=').trim() };
      });
    return set({ labels });
  }
</script>

<h2 class="text-lg font-semibold break-words">{field?.name ?? 'No field here'}</h2>
<p class="text-faint">
  {#if field}
    {field.type === 'BOOL'
      ? 'single bit'
      : field.type === 'BITS'
        ? `group of ${field.bits} bits`
        : field.type}, in
    <span class="font-mono">{device.name}</span>
    {image.direction}
  {:else if run}
    {run.bits} free bits from <span class="font-mono">byte {run.at >> 3} · bit {run.at & 7}</span>
  {/if}
</p>

<h3 class="lens-heading">Both sides</h3>
<div class="grid grid-cols-2 gap-2 font-mono text-[13px]">
  <div class="rounded-field border border-base-300 px-2 py-1.5 whitespace-nowrap">
    <div class="font-sans text-xs text-faint">controller · {sides.controller.side}</div>
    <div>{sides.controller.text}</div>
    <div class="text-xs text-faint">{sides.controller.direct}</div>
  </div>
  <div class="rounded-field border border-base-300 px-2 py-1.5 whitespace-nowrap">
    <div class="font-sans text-xs text-faint">device · {sides.device.side}</div>
    <div>{sides.device.text}</div>
    <div class="text-xs text-faint">word {sides.device.word}</div>
  </div>
</div>

{#if field}
  <h3 class="lens-heading">Readout</h3>
  {#each steps as step, i (i)}
    <div class="lens-row">
      <span>{step.title}</span>
      <span
        class={[
          'min-w-0 text-right wrap-anywhere whitespace-normal',
          step.step === 'label' ? 'font-semibold' : 'font-mono',
          i === steps.length - 1 && 'font-semibold',
        ]}>{step.text}</span
      >
    </div>
  {:else}
    <p class="text-faint">No bytes arrive. The bench brings them.</p>
  {/each}
{/if}

{#if findings.length}
  <h3 class="lens-heading">Findings here</h3>
  {#each findings as finding, i (i)}
    <p class="my-1.5 border-l-[3px] border-base-content pl-3">
      <b>{finding.severity}</b> · {finding.says} <span class="text-faint">{finding.cure}</span>
    </p>
  {/each}
{/if}

{#if field}
  <h3 class="lens-heading">Field</h3>
  <LensEntry
    title="name"
    class="w-44 font-mono"
    value={field.name}
    take={(name) => set({ name: name.trim() })}
    bind:element={nameInput}
  />
  <label class="lens-row">
    type
    <select
      class="inplace cursor-pointer font-mono"
      value={field.type}
      onchange={(event) => desk.edit(retypeField(image, field, event.currentTarget.value as Field['type']))}
    >
      {#each fieldTypeNames as type (type)}<option>{type}</option>{/each}
    </select>
  </label>
  <LensEntry
    title="first bit, byte.bit"
    class="w-20 font-mono"
    value="{field.at >> 3}.{field.at & 7}"
    take={setPlace}
  />
  <LensEntry
    title="length, bits"
    class="w-20 font-mono"
    value={String(field.bits)}
    label="length in bits"
    disabled={field.type !== 'BITS'}
    take={(text) => set({ bits: Number(text) })}
  />
  {#if field.type !== 'BOOL'}
    <LensEntry
      title="factor"
      class="w-28 font-mono"
      value={field.scale ? `${field.scale.numerator}/${field.scale.denominator}` : ''}
      placeholder="1/100"
      take={setFactor}
    />
    <LensEntry
      title="offset"
      class="w-28 font-mono"
      value={field.scale ? String(field.scale.offset) : ''}
      placeholder="0"
      take={setOffset}
    />
    <LensEntry
      title="unit"
      class="w-20 font-mono"
      value={field.unit}
      placeholder="none"
      take={(unit) => set({ unit: unit.trim() })}
    />
  {/if}
  <LensEntry
    title="labels"
    class="w-44"
    value={field.labels.map((l) => `${l.value} = ${l.text}`).join(', ')}
    placeholder="0 = off, 1 = on"
    take={setLabels}
  />
  <LensEntry
    title="note"
    class="w-52"
    value={field.note}
    placeholder="none"
    take={(note) => set({ note: note.trim() })}
  />
  <button
    class="btn mt-4 btn-sm"
    onclick={() => desk.edit({ edit: 'field.remove', image: image.id, field: field.id })}
    >Remove this field</button
  >
{:else if run}
  <p class="mt-5 text-faint">Draw over free bits with the mouse, or press <kbd class="font-mono">N</kbd>.</p>
  <div class="mt-2 flex flex-wrap gap-2">
    <button class="btn btn-sm" onclick={() => desk.edit(newField(image, bit, bit, crypto.randomUUID()))}
      >One bit here</button
    >
    {#each [8, 16, 32] as bits (bits)}
      {@const at = bit - (bit % 8)}
      {#if at >= run.at && at + bits <= run.at + run.bits}
        <button
          class="btn btn-sm"
          onclick={() => desk.edit(newField(image, at, at + bits - 1, crypto.randomUUID()))}
          >{bits} bits</button
        >
      {/if}
    {/each}
  </div>
{/if}
