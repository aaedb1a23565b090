<script lang="ts">
  import {
    codecOf,
    derivedReader,
    fieldAddress,
    inRadix,
    imageById,
    staleRuns,
    sceneOf,
    type Image,
    type Radix,
    type Signal,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import CodeName from '$lib/controls/CodeName.svelte';
  import WriteValue from './WriteValue.svelte';

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
  const codec = $derived(codecOf(image));
  const derive = $derived(derivedReader(image));
  const live = $derived.by(() => {
    if (!bytes || bytes.length < codec.bytes) return undefined;
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    const values = codec.signals.map((signal, i) => {
      const value = codec.valueAt(i);
      return {
        value,
        text: inRadix(signal, value, radix ?? signal.radix) ?? codec.textAt(i),
        plain: codec.readingAt(i).text,
      };
    });
    return { values, derived: derive(bytes) };
  });
  const hex = $derived(
    [...(bytes ?? [])].map((b) => b.toString(16).toUpperCase().padStart(2, '0')).join(' '),
  );

  const scene = $derived(sceneOf(desk.cell, imageById(desk.cell, image.id)));
  const addressOf = (signal: Signal) => fieldAddress(scene, signal).controller;
  /** Blocks of registers that were not answered in time. */
  const late = $derived(bytes ? staleRuns(scene.ages ?? [], bytes) : []);
  const isLate = (signal: Signal) =>
    late.some(({ from, to }) => from <= signal.at >> 3 && signal.at >> 3 < to);
  const pick = (signal: Signal) =>
    desk.recorder.toggle({
      signal: signal.id,
      image: image.id,
      device: device.name,
      name: signal.name,
      unit: signal.unit,
      direction: image.direction,
      bit: signal.type === 'BOOL',
    });
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
  <p class="mb-1 min-h-5 font-mono text-xs break-all text-faint" aria-label="raw bytes">
    {hex || 'no bytes'}
  </p>
  <table class="w-full table-fixed border-collapse">
    <colgroup><col class="w-[104px]" /><col /><col class="w-[44%]" /><col class="w-6" /></colgroup>
    <tbody>
      {#each codec.signals as field, i (field.id)}
        {@const reading = live?.values[i]}
        {@const value = reading?.value}
        <tr class="border-b border-base-300">
          <td class="py-1 font-mono text-xs whitespace-nowrap text-faint">{addressOf(field)}</td>
          <td class="py-0.5 font-mono" title={field.note || undefined}><CodeName name={field.name} /></td>
          <td class="truncate text-right font-mono" data-value={field.name} title={reading?.text}>
            {#if writable && value !== undefined}
              <WriteValue
                deviceId={device.id}
                signal={field}
                on={value === true}
                plain={reading?.plain ?? ''}
                disabled={waits}
              />
            {:else}
              {#if field.type === 'BOOL' && value !== undefined}<span aria-hidden="true"
                  >{value ? '■' : '□'}</span
                >{/if}
              <span class={[(stale || isLate(field)) && 'text-faint italic']}>{reading?.text ?? '–'}</span>
              {#if !stale && isLate(field)}<span title="its block was not answered in time">▲ stale</span
                >{/if}
            {/if}
          </td>
          <td class="text-right">
            {#if curved(field)}
              <input
                type="checkbox"
                class="checkbox rounded-sm checkbox-xs"
                aria-label="record {field.name}"
                title="record it for the chart"
                checked={desk.recorder.picked(field.id)}
                onchange={() => pick(field)}
              />
            {/if}
          </td>
        </tr>
      {:else}
        <tr><td class="py-2 text-faint">No fields yet: lay them out in the Sight.</td></tr>
      {/each}
      {#each live?.derived ?? [] as { derived, text } (derived.id)}
        <tr class="border-b border-base-300">
          <td class="py-1 text-xs text-faint">derived</td>
          <td class="py-0.5 font-mono" title={derived.note || derived.expression}
            >= <CodeName name={derived.name} /></td
          >
          <td class="truncate text-right font-mono" data-value={derived.name} title={derived.note}>{text}</td>
          <td></td>
        </tr>
      {/each}
    </tbody>
  </table>
</section>
