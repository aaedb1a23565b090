<script lang="ts">
  import FieldLens from '$components/FieldLens.svelte';
  import { editsText } from '$components/keys.js';
  import Tape from '$components/Tape.svelte';
  import View from '$components/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { growField, moveField, newField } from '$lib/desk/fieldEdits.js';
  import { shapeOf, stepBit } from '$lib/desk/tape.js';
  import { allImages, bitOfAddress, fieldAtBit, Problem, type Edit } from '@fadenkreuz/core';
  import { tick } from 'svelte';

  const desk = useDesk();

  const places = $derived(allImages(desk.cell));
  const place = $derived(
    places.find((p) => p.image.id === desk.crosshair?.image) ??
      places.find((p) => p.image.direction === 'feedback' && desk.running && p.device.standIn) ??
      places.find((p) => p.image.direction === 'feedback'),
  );
  let rowBits = $state<number>(desk.cell.controller.elementBits);
  const shape = $derived(shapeOf(rowBits));
  const bits = $derived((place?.image.size ?? 0) * 8);
  const bit = $derived(
    Math.max(
      0,
      Math.min(desk.crosshair?.image === place?.image.id ? (desk.crosshair?.bit ?? 0) : 0, bits - 1),
    ),
  );
  const field = $derived(place && fieldAtBit(place.image.fields, bit));
  const bytes = $derived(place && desk.bytes.get(place.image.id));

  let jump = $state('');
  let jumpInput = $state<HTMLInputElement | undefined>();
  let nameInput = $state<HTMLInputElement | undefined>();

  const newId = () => crypto.randomUUID();
  const pin = (to: number) => place && (desk.crosshair = { image: place.image.id, bit: to });
  const show = (image: string) => (desk.crosshair = { image, bit: 0 });
  const edit = (change: Edit | undefined) => change && desk.edit(change);

  function doJump() {
    if (!place || jump.trim() === '') return;
    try {
      pin(bitOfAddress(jump, place.image, desk.cell.controller.elementBits));
      jump = '';
      jumpInput?.blur();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      desk.note = error.report();
    }
  }

  async function keydown(event: KeyboardEvent) {
    if (!place || editsText(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    const { image, link } = place;
    if (event.key.startsWith('Arrow')) {
      if (event.shiftKey && field) {
        const whole = field.type !== 'BOOL' && field.type !== 'BITS';
        const step =
          { ArrowLeft: whole ? 8 : 1, ArrowRight: whole ? -8 : -1, ArrowDown: rowBits, ArrowUp: -rowBits }[
            event.key
          ] ?? 0;
        const change = moveField(image, field, field.at + step);
        if (change?.edit === 'field.set' && desk.edit(change)) pin(Number(change.set['at']));
      } else {
        pin(stepBit(bit, event.key, rowBits, bits));
      }
    } else if (/^[0-9%]$/.test(event.key)) {
      jump = event.key;
      jumpInput?.focus();
      await tick();
      jumpInput?.setSelectionRange(1, 1);
    } else if ((event.key === '+' || event.key === '-') && field)
      edit(growField(image, field, event.key === '+' ? 1 : -1));
    else if (event.key === 'n' && !field) edit(newField(image, bit, bit, newId()));
    else if (event.key === 'Delete' && field)
      desk.edit({ edit: 'field.remove', image: image.id, field: field.id });
    else if (event.key === 'Enter' && field && event.target === document.body) nameInput?.focus();
    else if (event.key === 'c') show(link.command.id);
    else if (event.key === 'f') show(link.feedback.id);
    else return;
    event.preventDefault();
  }

  // The crosshair stays in view when it is moved by keys or from elsewhere.
  let scroller = $state<HTMLDivElement | undefined>();
  $effect(() => {
    const top = Math.floor(bit / rowBits) * shape.rowHeight;
    const box = scroller?.parentElement;
    if (!box) return;
    if (top < box.scrollTop) box.scrollTop = top;
    else if (top + 140 > box.scrollTop + box.clientHeight) box.scrollTop = top + 140 - box.clientHeight;
  });
</script>

<svelte:window onkeydown={keydown} />

<View lensTitle="Field under the crosshair">
  {#snippet main()}
    <div bind:this={scroller} class="pb-10">
      {#if place}
        <div class="mb-3 flex items-center gap-3">
          <h1 class="sr-only">Sight</h1>
          <select
            class="inplace max-w-56 cursor-pointer font-mono text-lg font-semibold"
            aria-label="device"
            value={place.device.id}
            onchange={(event) => {
              const next = places.find(
                (p) =>
                  p.device.id === event.currentTarget.value && p.image.direction === place.image.direction,
              );
              if (next) show(next.image.id);
            }}
          >
            {#each desk.cell.devices.filter((d) => d.links.length) as device (device.id)}<option
                value={device.id}>{device.name}</option
              >{/each}
          </select>
          <div class="segment" role="group" aria-label="direction">
            {#each [place.link.command, place.link.feedback] as image (image.id)}
              {@const here = image.id === place.image.id}
              {@const command = image.direction === 'command'}
              <button
                class={[
                  'whitespace-nowrap',
                  command ? 'text-command' : 'text-feedback',
                  here && (command ? 'bg-command-fill font-semibold' : 'bg-feedback-fill font-semibold'),
                ]}
                aria-current={here}
                onclick={() => show(image.id)}
                >{command ? '▸' : '◂'} {image.direction} <span class="font-mono">{image.size} B</span></button
              >
            {/each}
          </div>
          <input
            bind:this={jumpInput}
            bind:value={jump}
            class="inplace ml-auto w-36 border-base-300 font-mono"
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
          <span class="text-xs text-faint">row</span>
          <div class="segment font-mono" role="group" aria-label="bits in a row">
            {#each [8, 16, 32, 64] as width (width)}
              <button aria-pressed={rowBits === width} onclick={() => (rowBits = width)}>{width}</button>
            {/each}
          </div>
        </div>
        <Tape
          image={place.image}
          elementBits={desk.cell.controller.elementBits}
          {shape}
          {bit}
          {bytes}
          onpin={pin}
          onedit={(change) => desk.edit(change)}
          {newId}
        />
      {:else}
        <p class="text-faint">There is no image yet. Add a device in the line-up.</p>
      {/if}
    </div>
  {/snippet}
  {#snippet lens()}
    {#if place}<FieldLens
        device={place.device}
        image={place.image}
        {field}
        {bit}
        {bytes}
        bind:nameInput
      />{/if}
  {/snippet}
</View>
