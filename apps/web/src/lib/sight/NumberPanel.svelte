<script lang="ts">
  import {
    hasOrder,
    numberSight,
    numberTyped,
    signalAtBit,
    signalsInside,
    type AddressScene,
  } from '@fadenkreuz/core';
  import { orderTexts } from './fieldTexts.js';

  /** What is this number? The bits of a raw value at the crosshair, under every byte order. */
  interface Props {
    scene: AddressScene;
    bit: number;
    onpin: (bit: number) => void;
    input?: HTMLInputElement | undefined;
  }
  let { scene, bit, onpin, input = $bindable() }: Props = $props();

  let typed = $state('');
  /** The number that the crosshair is on, else the word. */
  const field = $derived.by(() => {
    const signal = signalAtBit(signalsInside(scene.image), bit);
    return signal && hasOrder(signal) ? signal : undefined;
  });
  const firstByte = $derived(field ? field.at >> 3 : (bit >> 4) * 2);
  const value = $derived(numberTyped(typed));
  const sight = $derived(value === undefined ? undefined : numberSight(value, scene, firstByte));
  const hex = (bytes: number[]) => bytes.map((b) => b.toString(16).toUpperCase().padStart(2, '0')).join(' ');
</script>

<h2 class="text-lg font-semibold">What is this number?</h2>
<p class="text-faint">
  Read as it would lie from <span class="font-mono">byte {firstByte}</span> of this image, where the crosshair is.
</p>
<input
  bind:this={input}
  bind:value={typed}
  class="inplace mt-2 w-full border-base-300 font-mono text-lg"
  placeholder="1280, 16#0500, 0x0500, 2#0101"
  aria-label="raw number"
  autocomplete="off"
/>
{#if typed.trim() !== '' && value === undefined}
  <p class="mt-2" role="status">
    This is no whole number. Write it like 1280, 16#0500, 0x0500 or 2#0000_0101.
  </p>
{/if}
{#if sight}
  <p class="mt-2 font-mono" data-testid="number-readings">
    {sight.value} = 16#{BigInt.asUintN(sight.bytes * 8, sight.value)
      .toString(16)
      .toUpperCase()
      .padStart(sight.bytes * 2, '0')}
  </p>
  {#each sight.readings as reading, i (reading.order)}
    {@const likely = i === sight.likely.index}
    <section class="mt-3" aria-label={orderTexts[reading.order]}>
      <h3 class={['flex items-baseline justify-between gap-2', likely && 'font-semibold']}>
        <span>{likely ? '◉' : '○'} {orderTexts[reading.order]}</span>
        <span class="font-mono text-xs text-faint">{hex(reading.bytes)}</span>
      </h3>
      {#if reading.value}
        <p class="font-mono" data-testid="number-value">
          {field?.name} = {reading.value.text}{reading.value.plausible ? '' : ', outside its limits'}
        </p>
      {/if}
      {#if likely}<p class="text-xs">Likely: {sight.likely.reason}</p>{/if}
      {#each reading.setBits as set (set.bit)}
        <button
          class="flex w-full cursor-pointer items-baseline justify-between gap-2 border-b border-base-300 py-0.5 text-left text-xs"
          onclick={() => onpin(set.sides.device.byte * 8 + set.sides.device.bit)}
        >
          <span class="font-mono">{set.sides.controller.text} ↔ {set.sides.device.text}</span>
          <span class="text-right">{set.means ?? set.signal ?? '—'}</span>
        </button>
      {:else}
        <p class="text-xs text-faint">No bit is set.</p>
      {/each}
    </section>
  {/each}
{/if}
