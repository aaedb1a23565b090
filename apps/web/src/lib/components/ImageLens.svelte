<script lang="ts">
  import {
    byteOrders,
    codecOf,
    compileDerived,
    controllerNotation,
    derivedOf,
    identifierOf,
    deviceNotation,
    lightCurtainSpan,
    notationsOf,
    Problem,
    writeAddress,
    type AddressScene,
    type Derived,
    type Group,
    type Numbering,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { orderTexts } from '$lib/desk/fieldTexts.js';
  import FindingLine from './FindingLine.svelte';
  import InPlace from './InPlace.svelte';
  import LensEntry from './LensEntry.svelte';
  import OwnNotations from './OwnNotations.svelte';

  /** What holds for a whole image: byte order, numbering, groups, derived values; and the controller's elements. */
  let { scene, bytes }: { scene: AddressScene; bytes: Uint8Array | undefined } = $props();
  const desk = useDesk();

  const image = $derived(scene.image);
  const set = (values: Record<string, unknown>) =>
    desk.edit({ edit: 'image.set', image: image.id, set: values });
  const setController = (values: Record<string, unknown>) =>
    desk.edit({ edit: 'controller.set', set: values });
  const notations = $derived(notationsOf(scene));
  const numbering: Numbering = $derived(
    image.numbering ?? { notation: 'byte', before: 0, slot: 0, subslot: 0, signals: [] },
  );
  const own = $derived(deviceNotation(scene));
  const setNumbering = (values: Partial<Numbering>) => set({ numbering: { ...numbering, ...values } });
  const findings = $derived(desk.findings.filter((f) => f.place.image === image.id && !f.place.field));

  const rangesText = $derived(numbering.signals.map((r) => `${r.first}+${r.count} at ${r.point}`).join(', '));
  function setRanges(text: string): boolean {
    const signals = text
      .split(/[,;]/)
      .map((part) => part.trim())
      .filter(Boolean)
      .map((part) => {
        const match = /^(\d+)\s*\+\s*(\d+)\s*at\s*(\d+)$/.exec(part);
        return { first: Number(match?.[1]), count: Number(match?.[2]), point: Number(match?.[3]) };
      });
    return setNumbering({ signals });
  }

  const setGroup = (group: Group, values: Partial<Group>) =>
    set({ groups: image.groups.map((g) => (g.id === group.id ? { ...g, ...values } : g)) });
  const addGroup = () =>
    set({
      groups: [
        ...image.groups,
        { id: crypto.randomUUID(), name: 'channel', count: 2, stride: 32, parent: null, first: 1 },
      ],
    });

  const values = $derived(derivedOf(image));
  const setDerived = (value: Derived, entries: Partial<Derived>) =>
    set({ derived: values.map((d) => (d.id === value.id ? { ...d, ...entries } : d)) });
  const addDerived = (added: Derived[]) => set({ derived: [...values, ...added] });
  const readings = $derived.by(() => {
    const codec = codecOf(image);
    if (!bytes || bytes.length < codec.bytes) return new Map<string, string>();
    try {
      codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
      return new Map(compileDerived(image, codec)().map((r) => [r.derived.id, r.text]));
    } catch (error) {
      if (error instanceof Problem) return new Map<string, string>();
      throw error;
    }
  });
  /** Runs of bits, as the beams of a light curtain come. */
  const beamFields = $derived(
    image.fields.filter(
      (f) => /^(BITS|BYTE|WORD|DWORD|LWORD)$/.test(f.type) && f.bits >= 4 && !f.array && !f.group,
    ),
  );
  let beamField = $state('');
  const beams = $derived(beamFields.find((f) => f.id === beamField) ?? beamFields[0]);
  let pitch = $state('20');
</script>

<h2 class="text-lg font-semibold">{image.direction === 'command' ? '▸' : '◂'} {image.direction} image</h2>
<p class="text-faint">
  of <span class="font-mono">{scene.device.name}</span>, {image.size} bytes, {image.fields.length} fields
</p>
{#each findings as finding, i (i)}<FindingLine {finding} />{/each}

<h3 class="lens-heading">Bytes</h3>
<label class="lens-row">
  byte order
  <select
    class="inplace max-w-48 min-w-0 cursor-pointer"
    aria-label="byte order of the image"
    value={image.order ?? ''}
    onchange={(event) => set({ order: event.currentTarget.value || null })}
  >
    <option value="">not stated, read as little</option>
    {#each byteOrders as order (order)}<option value={order}>{orderTexts[order]}</option>{/each}
  </select>
</label>
<label class="lens-row">
  bytes of each word swapped on the way
  <input
    type="checkbox"
    class="checkbox checkbox-sm"
    checked={image.swapped}
    onchange={(event) => set({ swapped: event.currentTarget.checked })}
  />
</label>

<h3 class="lens-heading">Device's numbers</h3>
<label class="lens-row">
  notation
  <select
    class="inplace max-w-48 min-w-0 cursor-pointer"
    value={numbering.notation}
    onchange={(event) => setNumbering({ notation: event.currentTarget.value })}
  >
    {#each notations.filter((n) => n.side === 'device') as n (n.id)}<option value={n.id}>{n.title}</option
      >{/each}
  </select>
</label>
{#if own.ranges}
  <LensEntry
    title="ranges"
    class="w-44 font-mono"
    value={rangesText}
    placeholder="217+32 at 12"
    label="signal ranges: first number + count at point"
    take={setRanges}
  />
{:else}
  <LensEntry
    title="units before the image"
    class="w-20 font-mono"
    value={String(numbering.before)}
    take={(text) => setNumbering({ before: Number(text) })}
  />
{/if}
{#if own.pattern.includes('{slot}')}
  <LensEntry
    title="slot"
    class="w-20 font-mono"
    value={String(numbering.slot)}
    take={(text) => setNumbering({ slot: Number(text) })}
  />
  <LensEntry
    title="subslot"
    class="w-20 font-mono"
    value={String(numbering.subslot)}
    take={(text) => setNumbering({ subslot: Number(text) })}
  />
{/if}
<p class="mt-1 text-xs text-faint">
  first bit: <span class="font-mono">{writeAddress(own, scene, 0) ?? 'no number'}</span>, last:
  <span class="font-mono">{writeAddress(own, scene, Math.max(0, image.size * 8 - 1)) ?? 'no number'}</span>
</p>

<h3 class="lens-heading">Controller <span class="font-mono">{desk.cell.controller.name}</span></h3>
<label class="lens-row">
  notation
  <select
    class="inplace max-w-48 min-w-0 cursor-pointer"
    value={controllerNotation(scene).id}
    onchange={(event) => setController({ notation: event.currentTarget.value })}
  >
    {#each notations.filter((n) => n.side === 'controller') as n (n.id)}<option value={n.id}>{n.title}</option
      >{/each}
  </select>
</label>
<label class="lens-row">
  elements
  <span>
    <select
      class="inplace cursor-pointer font-mono"
      aria-label="bits of an element"
      value={String(desk.cell.controller.elementBits)}
      onchange={(event) => setController({ elementBits: Number(event.currentTarget.value) })}
    >
      {#each [8, 16, 32, 64] as bits (bits)}<option value={String(bits)}>{bits} bits</option>{/each}
    </select>
    <select
      class="inplace cursor-pointer"
      aria-label="byte order of an element"
      value={desk.cell.controller.elementOrder}
      onchange={(event) => setController({ elementOrder: event.currentTarget.value })}
    >
      <option value="little">low byte first</option>
      <option value="big">high byte first</option>
    </select>
  </span>
</label>

<h3 class="lens-heading">Groups that repeat</h3>
{#each image.groups as group (group.id)}
  <div class="border-b border-base-300 py-1">
    <div class="flex items-center justify-between gap-1">
      <InPlace
        class="w-28 font-mono"
        value={group.name}
        label="name of the group"
        take={(name) => setGroup(group, { name: name.trim() })}
      />
      <button
        class="cursor-pointer text-xs underline"
        onclick={() => set({ groups: image.groups.filter((g) => g.id !== group.id) })}>remove</button
      >
    </div>
    <div class="flex flex-wrap items-center gap-1 text-xs text-faint">
      <InPlace
        class="w-12 border-base-300 font-mono"
        value={String(group.count)}
        label="repetitions of {group.name}"
        take={(text) => setGroup(group, { count: Number(text) })}
      /> ×, every <InPlace
        class="w-14 border-base-300 font-mono"
        value={String(group.stride)}
        label="bits from one {group.name} to the next"
        take={(text) => setGroup(group, { stride: Number(text) })}
      /> bits, from <InPlace
        class="w-12 border-base-300 font-mono"
        value={String(group.first)}
        label="number of the first {group.name}"
        take={(text) => setGroup(group, { first: Number(text) })}
      /> in
      <select
        class="inplace cursor-pointer"
        aria-label="group around {group.name}"
        value={group.parent ?? ''}
        onchange={(event) => setGroup(group, { parent: event.currentTarget.value || null })}
      >
        <option value="">the image</option>
        {#each image.groups.filter((g) => g.id !== group.id) as g (g.id)}<option value={g.id}>{g.name}</option
          >{/each}
      </select>
    </div>
  </div>
{/each}
<button class="btn mt-2 btn-sm" onclick={addGroup}>Add a group</button>

{#if image.direction === 'feedback'}
  <h3 class="lens-heading">Derived values</h3>
  {#each values as value (value.id)}
    <div class="border-b border-base-300 py-1">
      <div class="flex items-center justify-between gap-1">
        <InPlace
          class="w-36 font-mono"
          value={value.name}
          label="name of the derived value"
          take={(name) => setDerived(value, { name: name.trim() })}
        />
        <span class="font-mono font-semibold">{readings.get(value.id) ?? ''}</span>
      </div>
      <InPlace
        class="w-full border-base-300 font-mono text-xs"
        value={value.expression}
        label="expression of {value.name}"
        take={(expression) => setDerived(value, { expression: expression.trim() })}
      />
      <div class="flex items-center gap-1 text-xs text-faint">
        ± <InPlace
          class="w-28 border-base-300 font-mono"
          value={value.uncertainty}
          placeholder="exact"
          label="uncertainty of {value.name}"
          take={(uncertainty) => setDerived(value, { uncertainty: uncertainty.trim() })}
        />
        <InPlace
          class="w-14 border-base-300 font-mono"
          value={value.unit}
          placeholder="unit"
          label="unit of {value.name}"
          take={(unit) => setDerived(value, { unit: unit.trim() })}
        />
        <button
          class="ml-auto cursor-pointer underline"
          onclick={() => set({ derived: values.filter((d) => d.id !== value.id) })}>remove</button
        >
      </div>
      {#if value.note}<p class="text-xs text-faint">{value.note}</p>{/if}
    </div>
  {/each}
  <div class="mt-2 flex flex-wrap items-center gap-2">
    <button
      class="btn btn-sm"
      onclick={() =>
        addDerived([
          {
            id: crypto.randomUUID(),
            name: `derived_${values.length + 1}`,
            expression: '0',
            uncertainty: '',
            unit: '',
            note: '',
          },
        ])}>Add a value</button
    >
  </div>
  {#if beams}
    <div class="mt-2 flex flex-wrap items-center gap-1.5 text-xs">
      object span from
      <select
        class="inplace cursor-pointer border-base-300 font-mono"
        aria-label="beam bits"
        value={beams.id}
        onchange={(event) => (beamField = event.currentTarget.value)}
      >
        {#each beamFields as field (field.id)}<option value={field.id}>{field.name}</option>{/each}
      </select>
      pitch
      <input class="inplace w-10 border-base-300 font-mono" aria-label="beam pitch, mm" bind:value={pitch} />
      mm
      <button
        class="btn btn-sm"
        onclick={() =>
          addDerived(lightCurtainSpan(identifierOf(beams.name), pitch, 'mm', () => crypto.randomUUID()))}
        >Add</button
      >
    </div>
  {/if}
{/if}

<OwnNotations />
