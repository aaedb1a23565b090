<script lang="ts">
  import { goto } from '$app/navigation';
  import FieldLens from '$lib/sight/FieldLens.svelte';
  import ImageLens from '$lib/sight/ImageLens.svelte';
  import ImagePicker from '$lib/sight/ImagePicker.svelte';
  import NumberPanel from '$lib/sight/NumberPanel.svelte';
  import SightLinks from '$lib/sight/SightLinks.svelte';
  import Tape from '$lib/sight/Tape.svelte';
  import View from '$lib/frame/View.svelte';
  import { editsText } from '$lib/controls/keys.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { growField, moveField, newField } from '$lib/sight/fieldEdits.js';
  import { sightPlace } from '$lib/sight/sightPlace.js';
  import { densities, shapeOf, stepBit, type Density } from '$lib/sight/tape.js';
  import {
    bitOfAddress,
    goesAnywhere,
    Problem,
    radixes,
    sceneOf,
    signalAtBit,
    signalsOf,
    type Edit,
    type Radix,
    swappedByte,
  } from '@fadenkreuz/core';
  import { tick } from 'svelte';

  const desk = useDesk();

  const place = $derived(sightPlace(desk));
  const scene = $derived(place && sceneOf(desk.cell, place));
  let rowBits = $state<number>(desk.cell.controller.elementBits);
  let density = $state<Density>('roomy');
  let radix = $state<Radix | ''>('');
  let shown = $state<'field' | 'image' | 'number'>('field');
  const shape = $derived(shapeOf(rowBits, density, scene?.runs !== undefined));
  const bits = $derived((place?.image.size ?? 0) * 8);
  const bit = $derived(
    Math.max(
      0,
      Math.min(desk.crosshair?.image === place?.image.id ? (desk.crosshair?.bit ?? 0) : 0, bits - 1),
    ),
  );
  const signal = $derived(place && signalAtBit(signalsOf(place.image), bit));
  const field = $derived(place?.image.fields.find((f) => f.id === signal?.of));
  const bytes = $derived(place && desk.bytes.get(place.image.id));
  $effect(() => {
    desk.live.show('sight', place ? [place.link.id] : []);
    return () => desk.live.show('sight', []);
  });

  // Which bits changed, and how long ago, is seen while bytes arrive.
  $effect(() => {
    desk.images.follow('sight', place && desk.running ? [place.image.id] : []);
    return () => desk.images.follow('sight', []);
  });
  const changed = $derived.by(() => {
    const followed =
      desk.running && place ? (void desk.images.count, desk.images.of(place.image.id)) : undefined;
    // Drawn again with each news of the bench: what changed long ago fades.
    void bytes;
    if (!followed || !place) return undefined;
    const { changedAt } = followed;
    const { size, swapped } = place.image;
    const at = swapped
      ? changedAt.map((_, b) => changedAt[swappedByte(b >> 3, size) * 8 + (b & 7)] ?? 0)
      : changedAt;
    return { at, now: desk.images.now() };
  });

  let jump = $state('');
  let jumpInput = $state<HTMLInputElement | undefined>();
  let nameInput = $state<HTMLInputElement | undefined>();
  let numberInput = $state<HTMLInputElement | undefined>();

  const newId = () => crypto.randomUUID();
  const pin = (to: number) => place && (desk.crosshair = { image: place.image.id, bit: to });
  const show = (image: string) => (desk.crosshair = { image, bit: 0 });
  const edit = (change: Edit | undefined) => change && desk.edit(change);

  function doJump() {
    if (!scene || jump.trim() === '') return;
    try {
      pin(bitOfAddress(jump, scene));
      jump = '';
      jumpInput?.blur();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      desk.note = error.report();
    }
  }

  async function askNumber() {
    shown = 'number';
    await tick();
    numberInput?.focus();
  }

  /** Moves the field under the crosshair, and the crosshair with it. */
  function carry(key: string) {
    if (!place || !field || !signal) return;
    const side = goesAnywhere(field.type) ? 1 : 8;
    const steps: Record<string, number> = {
      ArrowLeft: side,
      ArrowRight: -side,
      ArrowDown: rowBits,
      ArrowUp: -rowBits,
    };
    const change = moveField(place.image, field, field.at + (steps[key] ?? 0));
    if (change?.edit !== 'field.set') return;
    // Worked out before the edit: after it, another field may lie under the crosshair.
    const to = signal.at + Number(change.set['at']) - field.at;
    if (desk.edit(change)) pin(to);
  }

  async function keydown(event: KeyboardEvent) {
    if (!place || editsText(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const { image, link } = place;
    const { key } = event;
    if (key.startsWith('Arrow')) {
      if (event.shiftKey && field) carry(key);
      else pin(stepBit(bit, key, shape, bits));
    } else if (key === 'PageDown' || key === 'PageUp') {
      const page = 10 * rowBits * (key === 'PageDown' ? 1 : -1);
      pin(Math.max(0, Math.min(bits - 1, bit + page)));
    } else if (/^[0-9%]$/.test(key)) {
      jump = key;
      jumpInput?.focus();
      await tick();
      jumpInput?.setSelectionRange(1, 1);
    } else if ((key === '+' || key === '-') && field) edit(growField(image, field, key === '+' ? 1 : -1));
    else if (key === 'n' && !field) edit(newField(image, bit, bit, newId()));
    else if (key === 'Delete' && field) desk.edit({ edit: 'field.remove', image: image.id, field: field.id });
    else if (key === 'Enter' && field && !(event.target as HTMLElement).closest('a, button'))
      nameInput?.focus();
    else if (key === 'c') show(link.command.id);
    else if (key === 'f') show(link.feedback.id);
    else if (key === '=') await askNumber();
    else if (key === 'Escape' && shown !== 'field') shown = 'field';
    else if (key === 'i') shown = shown === 'image' ? 'field' : 'image';
    else if (key === 't' || key === 'd' || key === 'p')
      await goto(`sight/${{ t: 'table', d: 'compare', p: 'print' }[key]}`);
    else return;
    event.preventDefault();
  }
</script>

<svelte:window onkeydown={keydown} />

<View lensTitle="Field under the crosshair">
  {#snippet main()}
    <div class="flex h-full flex-col">
      {#if place && scene}
        <h1 class="sr-only">Sight</h1>
        <div class="mb-1.5 flex items-center gap-3">
          <ImagePicker {place} />
          <SightLinks here="" />
          <input
            bind:this={jumpInput}
            bind:value={jump}
            class="inplace ml-auto w-36 shrink-0 border-base-300 font-mono"
            placeholder="go to address"
            aria-label="go to an address of either side"
            onkeydown={(event) => {
              if (event.key === 'Enter') doJump();
              if (event.key === 'Escape') {
                jump = '';
                jumpInput?.blur();
              }
            }}
          />
        </div>
        <div class="mb-2 flex items-center gap-3 text-[13px]">
          <div
            class="segment shrink-0 font-mono"
            role="group"
            aria-label="bits in a row"
            title="bits in a row"
          >
            {#each [8, 16, 32, 64] as width (width)}
              <button aria-pressed={rowBits === width} onclick={() => (rowBits = width)}>{width}</button>
            {/each}
          </div>
          <div class="segment shrink-0" role="group" aria-label="density">
            {#each Object.keys(densities) as name (name)}
              <button aria-pressed={density === name} onclick={() => (density = name as Density)}
                >{name}</button
              >
            {/each}
          </div>
          <label class="flex min-w-0 items-center gap-1 text-xs text-faint">
            <select
              class="inplace cursor-pointer text-base-content"
              aria-label="reading of all fields"
              bind:value={radix}
            >
              <option value="">as each field says</option>
              {#each radixes as name (name)}<option value={name}>{name}</option>{/each}
            </select>
          </label>
          <button
            class="btn ml-auto btn-sm"
            aria-pressed={shown === 'image'}
            onclick={() => (shown = shown === 'image' ? 'field' : 'image')}>Image</button
          >
          <button class="btn btn-sm" aria-pressed={shown === 'number'} onclick={askNumber}
            >What is this number?</button
          >
          <a class="btn btn-sm" href="/cells/{desk.cell.id}/bench?part=changed">What changed?</a>
        </div>
        <Tape
          {scene}
          {shape}
          {bit}
          {bytes}
          radix={radix || undefined}
          onpin={(to) => (pin(to), (shown = shown === 'image' ? 'field' : shown))}
          onedit={(change) => desk.edit(change)}
          {newId}
          {changed}
          legend
        />
      {:else}
        <p class="text-faint">There is no image yet. Add a device in the line-up.</p>
      {/if}
    </div>
  {/snippet}
  {#snippet lens()}
    {#if scene}
      {#if shown === 'image'}
        {#key scene.image.id}<ImageLens {scene} {bytes} />{/key}
      {:else if shown === 'number'}
        <NumberPanel {scene} {bit} onpin={pin} bind:input={numberInput} />
        <button class="btn mt-4 btn-sm" onclick={() => (shown = 'field')}>Back to the field</button>
      {:else}
        <FieldLens deviceId={place!.device.id} {scene} {signal} {bit} {bytes} bind:nameInput />
      {/if}
    {/if}
  {/snippet}
</View>
