<script lang="ts">
  import {
    codecOf,
    derivedReader,
    fieldAddress,
    imageById,
    staleRuns,
    sceneOf,
    type Image,
    type Radix,
    type Signal,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import CodeName from '$lib/controls/CodeName.svelte';
  import Pin from '@lucide/svelte/icons/pin';
  import HexDump from './HexDump.svelte';
  import LiveValue from './LiveValue.svelte';
  import { maxPicks } from '$lib/desk/recorder.svelte.js';
  import { readingsOf } from './readings.js';

  interface Props {
    device: { id: string; name: string };
    image: Image;
    bytes: Uint8Array | undefined;
    /** Whether values may be written; `waits`: once the link stands again. */
    writable?: boolean;
    waits?: boolean;
    /** Shows all numbers in this way; undefined: each as its field says. */
    radix?: Radix | undefined;
    /** Why no value is one of now, such as `last packet 2.3 s ago`; empty while they are. */
    stale?: string;
  }
  let { device, image, bytes, writable = false, waits = false, radix, stale = '' }: Props = $props();
  const desk = useDesk();

  const command = $derived(image.direction === 'command');
  const signals = $derived(codecOf(image).signals);
  const derive = $derived(derivedReader(image));
  const readings = $derived(readingsOf(image, bytes, radix));
  const computed = $derived(readings && bytes ? derive(bytes) : []);

  const place = $derived(imageById(desk.cell, image.id));
  const scene = $derived(sceneOf(desk.cell, place));
  /** Blocks of registers that were not answered in time. */
  const late = $derived(bytes ? staleRuns(scene.ages ?? [], bytes) : []);
  const isLate = (signal: Signal) =>
    late.some(({ from, to }) => from <= signal.at >> 3 && signal.at >> 3 < to);
  function pick(signal: Signal) {
    const taken = desk.recorder.toggle({
      signal: signal.id,
      image: image.id,
      device: device.name,
      name: signal.name,
      unit: signal.unit,
      direction: image.direction,
      bit: signal.type === 'BOOL',
    });
    if (taken) return;
    desk.note = {
      says: `${signal.name} is not recorded: ${maxPicks} signals are recorded already.`,
      cure: 'Take the tick from one of them first.',
    };
  }
  /** Text and raw bytes have no curve. */
  const curved = (signal: Signal) => signal.type !== 'STRING' && signal.type !== 'BYTES';
</script>

<section>
  <h2 class={['flex items-baseline gap-2 font-semibold', command ? 'text-command' : 'text-feedback']}>
    {command ? '▸ command' : '◂ feedback'}
    {#if stale}<span class="text-xs font-normal" role="status">▲ stale, {stale}</span>{/if}
    {#if image.instance > 0}
      <span class="text-xs font-normal text-faint"
        >instance <span class="font-mono">{image.instance}</span></span
      >
    {/if}
  </h2>
  <HexDump
    {bytes}
    of={image.direction}
    write={writable
      ? (at, bytes) => {
          void desk.askArmed('/bytes', { device: device.id, link: place.link.id, at, bytes });
          return true;
        }
      : undefined}
  />
  <table class="w-full max-w-[40rem] table-fixed border-collapse">
    <colgroup><col /><col class="w-[41%]" /><col class="w-[56px]" /></colgroup>
    <tbody>
      {#each signals as field, i (field.id)}
        {@const at = fieldAddress(scene, field)}
        <tr class="border-b border-base-300">
          <td class="py-0.5 font-mono leading-tight" title={field.note || undefined}>
            <CodeName name={field.name} />
            <span
              class="block min-w-0 text-xs wrap-anywhere text-faint"
              title="the controller's address, and the device's"
              ><span class="inline-block">{at.controller} ·</span>
              <span class="inline-block">{at.device}</span></span
            >
          </td>
          <td
            class={['pl-2 font-mono', !writable && 'min-w-0 wrap-anywhere']}
            data-value={field.name}
            title={readings?.[i]?.text}
          >
            <LiveValue
              deviceId={device.id}
              signal={field}
              reading={readings?.[i]}
              {writable}
              {waits}
              stale={stale !== ''}
              late={isLate(field)}
            />
          </td>
          <td
            ><span class="flex items-center justify-end gap-[6px]">
              <button
                class={[
                  'grid size-[24px] cursor-pointer place-items-center',
                  desk.pins.has(field.id) ? 'text-base-content' : 'text-faint',
                ]}
                aria-label="pin {field.name}"
                aria-pressed={desk.pins.has(field.id)}
                title="keep it in sight above, whatever device is chosen"
                onclick={() => desk.pins.toggle({ image: image.id, signal: field.id })}
                ><Pin
                  size={13}
                  aria-hidden="true"
                  fill={desk.pins.has(field.id) ? 'currentColor' : 'none'}
                /></button
              >
              {#if curved(field)}
                <input
                  type="checkbox"
                  class="checkbox rounded-sm checkbox-xs"
                  aria-label="record {field.name}"
                  title="record it for the chart"
                  checked={desk.recorder.picked(field.id)}
                  onchange={({ currentTarget }) => {
                    pick(field);
                    currentTarget.checked = desk.recorder.picked(field.id);
                  }}
                />
              {/if}
            </span></td
          >
        </tr>
      {:else}
        <tr><td class="py-2 text-faint">No fields yet: lay them out in the Sight.</td></tr>
      {/each}
      {#each computed as { derived, text } (derived.id)}
        <tr class="border-b border-base-300">
          <td class="py-0.5 font-mono" title={derived.note || derived.expression}
            >= <CodeName name={derived.name} /> <span class="text-xs text-faint">derived</span></td
          >
          <td class="min-w-0 pl-2 font-mono wrap-anywhere" data-value={derived.name} title={derived.note}
            >{text}</td
          >
          <td></td>
        </tr>
      {/each}
    </tbody>
  </table>
</section>
