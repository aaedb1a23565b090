<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    agesAt,
    bothSides,
    codecOf,
    derivedReader,
    everyAddress,
    freeRuns,
    orderDoubt,
    readout,
    readsName,
    type AddressScene,
    type Field,
    type Signal,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { newField } from './fieldEdits.js';
  import { orderTexts, typeText } from './fieldTexts.js';
  import ArrangeTools from './ArrangeTools.svelte';
  import FieldForm from './FieldForm.svelte';
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import WriteValue from '$lib/bench/WriteValue.svelte';

  interface Props {
    deviceId: string;
    scene: AddressScene;
    signal: Signal | undefined;
    bit: number;
    bytes: Uint8Array | undefined;
    nameInput?: HTMLInputElement | undefined;
  }
  let { deviceId, scene, signal, bit, bytes, nameInput = $bindable() }: Props = $props();
  const desk = useDesk();

  const image = $derived(scene.image);
  const field: Field | undefined = $derived(image.fields.find((f) => f.id === signal?.of));
  const sides = $derived(bothSides(scene, bit));
  const ages = $derived(agesAt(scene.ages ?? [], bit));
  const steps = $derived(
    signal && bytes ? readout(image, signal, bytes, (at) => bothSides(scene, at).device.text) : [],
  );
  const doubt = $derived(signal && bytes ? orderDoubt(image, signal, bytes) : undefined);
  /** The value that was commanded last. */
  const last = $derived.by(() => {
    const codec = codecOf(image);
    const index = codec.signals.findIndex((s) => s.id === signal?.id);
    if (index < 0 || !bytes || bytes.length < codec.bytes) return undefined;
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    return { value: codec.valueAt(index), plain: codec.readingAt(index).text };
  });
  const findings = $derived(
    desk.findings.filter(
      (f) => f.place.image === image.id && (!f.place.field || f.place.field === field?.id),
    ),
  );
  const run = $derived(freeRuns(image).find((r) => r.at <= bit && bit < r.at + r.bits));
  let showAll = $state(false);

  const derive = $derived(derivedReader(image));
  /** Derived values that read this signal, as they are now. */
  const computed = $derived(
    signal ? derive(bytes).filter(({ derived }) => readsName(derived, signal.name)) : [],
  );
</script>

<h2 class="text-lg font-semibold break-words">{signal?.name ?? 'No field here'}</h2>
<p class="text-faint">
  {#if signal}
    {signal.type === 'BOOL' ? 'single bit' : typeText(signal)}, in
    <span class="font-mono">{scene.device.name}</span>
    {image.direction}
  {:else if run}
    {run.bits} free bits from <span class="font-mono">byte {run.at >> 3} · bit {run.at & 7}</span>
  {/if}
</p>

<LensSection title="Both sides">
  <div class="grid grid-cols-2 gap-2 font-mono text-[12.5px]">
    <div class="min-w-0 rounded-field border border-base-300 px-1.5 py-1.5">
      <div class="font-sans text-xs text-faint">controller · {sides.controller.side}</div>
      <div class="wrap-anywhere">{sides.controller.text}</div>
      <div class="text-xs text-faint">{sides.controller.direct}</div>
    </div>
    <div class="min-w-0 rounded-field border border-base-300 px-1.5 py-1.5">
      <div class="font-sans text-xs text-faint">device · {sides.device.side}</div>
      <div class="wrap-anywhere">{sides.device.text}</div>
      {#if sides.device.plain !== sides.device.text}
        <div class="text-xs text-faint">{sides.device.plain}</div>
      {/if}
    </div>
  </div>
  {#if ages.length}
    <p class="mt-1 text-xs text-faint">
      Computed from the age of the last answer of {ages.map((a) => a.run).join(', ')}, by the bench as by the
      written code.
    </p>
  {/if}
  <button
    class="mt-1 cursor-pointer text-xs underline"
    aria-expanded={showAll}
    onclick={() => (showAll = !showAll)}>{showAll ? 'Fewer notations' : 'In every notation'}</button
  >
  {#if showAll}
    {#each everyAddress(scene, bit) as { notation, text } (notation.id)}
      <div class="flex justify-between gap-2 border-b border-base-300 py-0.5 text-xs">
        <span class="shrink-0 text-faint">{notation.title}</span><span
          class="min-w-0 text-right font-mono wrap-anywhere">{text}</span
        >
      </div>
    {/each}
  {/if}
</LensSection>

{#if signal}
  <LensSection title="Readout">
    {#each steps as step, i (i)}
      <div class="lens-row">
        <span class="min-w-0 whitespace-normal">{step.title}</span>
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
    {#if doubt && field}
      {@const { order, text } = doubt.better}
      <p class="mt-1 text-xs">
        ▲ {doubt.now.text} makes no sense here. Read {orderTexts[order]} it would be {text}: the byte order is
        the likely cause.
      </p>
      <button
        class="btn mt-1 btn-xs"
        onclick={() => desk.edit({ edit: 'field.set', image: image.id, field: field.id, set: { order } })}
        >Read {field.name} {orderTexts[order]}</button
      >
    {/if}
    {#if image.direction === 'command' && last}
      <div class="lens-row mt-1">
        <span>Write</span>
        {#if desk.armed}
          <span class="font-mono">
            <WriteValue
              {deviceId}
              {signal}
              on={last.value === true}
              plain={last.plain}
              shown={steps.at(-1)?.text ?? last.plain}
            />
          </span>
        {:else}
          <span class="text-faint">Arm allows it</span>
        {/if}
      </div>
    {/if}
  </LensSection>
{/if}

{#if computed.length}
  <h3 class="lens-heading">Computed from it</h3>
  {#each computed as { derived, text } (derived.id)}
    <div class="lens-row" title={derived.note}>
      <span class="min-w-0 font-mono wrap-anywhere">{derived.name}</span><span class="font-mono font-semibold"
        >{text}</span
      >
    </div>
    {#if derived.note}<p class="text-xs text-faint">{derived.note}</p>{/if}
  {/each}
{/if}

{#if findings.length}
  <h3 class="lens-heading">Findings here</h3>
  {#each findings as finding, i (i)}<FindingLine {finding} />{/each}
{/if}

{#if field && signal}
  <FieldForm {image} {field} bind:nameInput />
  <ArrangeTools {image} {field} {bit} />
  <button
    class="btn mt-6 btn-sm"
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
  <ArrangeTools {image} field={undefined} {bit} />
{/if}
