<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    byteOrders,
    controllerNotation,
    deviceNotation,
    notationsOf,
    writeAddress,
    type AddressScene,
    type Numbering,
    elementsOf,
    imageById,
    type EditOf,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { orderTexts } from './fieldTexts.js';
  import DerivedForm from './DerivedForm.svelte';
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import GroupsForm from './GroupsForm.svelte';
  import { oneOf } from '$lib/controls/oneOf.js';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import NumberedBlocks from './NumberedBlocks.svelte';
  import RoleProposals from './RoleProposals.svelte';
  import StandardLayoutForm from './StandardLayoutForm.svelte';
  import OwnNotations from './OwnNotations.svelte';

  /** What holds for a whole image: byte order, numbering, groups, derived values; and the controller's elements. */
  let { scene, bytes }: { scene: AddressScene; bytes: Uint8Array | undefined } = $props();
  const desk = useDesk();

  const elementWidths = [8, 16, 32, 64] as const;
  const elementOrders = ['little', 'big'] as const;
  const orderNames = { little: 'low byte first', big: 'high byte first' };

  const image = $derived(scene.image);
  const { device, link } = $derived(imageById(desk.cell, image.id));
  /** As the controller sees this link where nothing else is said. */
  const usual = $derived(elementsOf(desk.cell, { ...link, elements: { bits: null, order: null } }));
  const setElements = (elements: Partial<typeof link.elements>) =>
    desk.edit({ edit: 'link.set', link: link.id, set: { elements: { ...link.elements, ...elements } } });
  const set = (values: EditOf<'image.set'>['set']) =>
    desk.edit({ edit: 'image.set', image: image.id, set: values });
  const setController = (values: EditOf<'controller.set'>['set']) =>
    desk.edit({ edit: 'controller.set', set: values });
  const notations = $derived(notationsOf(scene));
  const own = $derived(deviceNotation(scene));
  const numbering: Numbering = $derived(
    image.numbering ?? { notation: own.id, before: 0, slot: 0, subslot: 0, signals: [], blocks: [] },
  );
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
</script>

<h2 class="text-lg font-semibold">{image.direction === 'command' ? '▸' : '◂'} {image.direction} image</h2>
<p class="text-faint">
  of <span class="font-mono">{scene.device.name}</span>, {image.size} bytes, {image.fields.length} fields
</p>
{#each findings as finding, i (i)}<FindingLine {finding} />{/each}

<RoleProposals {image} {device} />

<LensSection title="Bytes">
  <label class="lens-row">
    byte order
    <select
      class="inplace max-w-48 min-w-0 cursor-pointer"
      aria-label="byte order of the image"
      value={image.order ?? ''}
      onchange={(event) => set({ order: oneOf(byteOrders, event.currentTarget.value) ?? null })}
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
</LensSection>

<LensSection title="Device's numbers" open={false} brief={own.title}>
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
  {:else if !scene.runs}
    <LensEntry
      title="units before the image"
      class="w-20 font-mono"
      value={String(numbering.before)}
      take={(text) => setNumbering({ before: Number(text) })}
    />
  {/if}
  {#if typeof own.unitBits === 'number' && !own.ranges && !scene.runs}
    <NumberedBlocks {scene} blocks={numbering.blocks} take={(blocks) => setNumbering({ blocks })} />
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
</LensSection>

<LensSection title="Standard layout" open={false}>
  <StandardLayoutForm {image} />
</LensSection>

<LensSection title="Controller" open={false} brief={controllerNotation(scene).title}>
  <label class="lens-row">
    notation
    <select
      class="inplace max-w-48 min-w-0 cursor-pointer"
      value={controllerNotation(scene).id}
      onchange={(event) => setController({ notation: event.currentTarget.value })}
    >
      {#each notations.filter((n) => n.side === 'controller') as n (n.id)}<option value={n.id}
          >{n.title}</option
        >{/each}
    </select>
  </label>
  <label class="lens-row">
    elements
    <select
      class="inplace cursor-pointer pr-6 font-mono"
      aria-label="bits of an element"
      value={String(link.elements.bits ?? '')}
      onchange={(event) => setElements({ bits: oneOf(elementWidths, event.currentTarget.value) ?? null })}
    >
      <option value="">usual: {usual.elementBits} bits</option>
      {#each elementWidths as bits (bits)}<option value={String(bits)}>{bits} bits</option>{/each}
    </select>
  </label>
  <label class="lens-row">
    they fill
    <select
      class="inplace cursor-pointer pr-6"
      aria-label="byte order of an element"
      value={link.elements.order ?? ''}
      onchange={(event) => setElements({ order: oneOf(elementOrders, event.currentTarget.value) ?? null })}
    >
      <option value="">usual: {orderNames[usual.elementOrder]}</option>
      {#each elementOrders as order (order)}<option value={order}>{orderNames[order]}</option>{/each}
    </select>
  </label>
  <p class="text-faint">For both images of {device.name} alone; the controller has its own in the line-up.</p>
</LensSection>

<GroupsForm {image} />
{#if image.direction === 'feedback'}<DerivedForm {image} {bytes} />{/if}

<OwnNotations />
