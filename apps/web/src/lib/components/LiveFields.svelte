<script lang="ts">
  import {
    bothSides,
    compileCodec,
    fieldEnd,
    shortText,
    type Field,
    type Image,
    type Value,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import InPlace from './InPlace.svelte';

  interface Props {
    device: string;
    image: Image;
    bytes: Uint8Array | undefined;
    /** Whether values may be written now. */
    writable?: boolean;
    chosen?: string | undefined;
    onchoose?: (field: Field) => void;
  }
  let { device, image, bytes, writable = false, chosen, onchoose }: Props = $props();
  const desk = useDesk();

  const command = $derived(image.direction === 'command');
  const fields = $derived(
    image.fields.filter((f) => fieldEnd(f) <= image.size * 8).sort((a, b) => a.at - b.at),
  );
  const codec = $derived(compileCodec(fields));
  const values: (Value | undefined)[] = $derived.by(() => {
    if (!bytes || bytes.length < codec.bytes) return fields.map(() => undefined);
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    return fields.map((_, i) => codec.valueAt(i));
  });
  const hex = $derived(
    [...(bytes ?? [])].map((b) => b.toString(16).toUpperCase().padStart(2, '0')).join(' '),
  );

  const addressOf = (field: Field) =>
    bothSides(image, field.at, desk.cell.controller.elementBits).controller.text;
  const write = (field: Field, value: string) =>
    void desk.ask('POST', '/write', { device, field: field.id, value });
</script>

<section>
  <h2 class={['flex items-baseline gap-2 font-semibold', command ? 'text-command' : 'text-feedback']}>
    {command ? '▸ command' : '◂ feedback'}
    <span class="text-xs font-normal text-faint"
      >instance <span class="font-mono">{image.instance}</span></span
    >
  </h2>
  <p class="mb-1 min-h-5 font-mono text-xs break-all text-faint" aria-label="raw bytes">
    {hex || 'no bytes'}
  </p>
  <table class="w-full table-fixed border-collapse">
    <colgroup>
      {#if !onchoose}<col class="w-[74px]" />{/if}
      <col />
      <col class="w-[46%]" />
    </colgroup>
    <tbody>
      {#each fields as field, i (field.id)}
        {@const value = values[i]}
        <tr
          class={[
            'border-b border-base-300',
            chosen === field.id && 'bg-base-100',
            onchoose && 'cursor-pointer',
          ]}
          onclick={() => onchoose?.(field)}
        >
          {#if !onchoose}
            <td class="py-1 font-mono text-xs whitespace-nowrap text-faint">{addressOf(field)}</td>
          {/if}
          <td
            class="truncate py-0.5 font-mono"
            title={[addressOf(field), field.note].filter(Boolean).join(' · ')}
          >
            {#if onchoose}
              <button class="cursor-pointer" aria-pressed={chosen === field.id}>{field.name}</button>
            {:else}{field.name}{/if}
          </td>
          <td
            class="truncate text-right font-mono"
            data-value={field.name}
            title={value === undefined ? undefined : shortText(field, value)}
          >
            {#if writable && value !== undefined}
              {#if field.type === 'BOOL'}
                <span class="segment" role="group" aria-label="write {field.name}">
                  <button aria-pressed={!value} onclick={() => write(field, '0')}>0</button>
                  <button aria-pressed={value === true} onclick={() => write(field, '1')}>1</button>
                </span>
              {:else}
                <InPlace
                  class="w-32 border-base-300 text-right"
                  value={shortText({ ...field, labels: [], unit: '' }, value)}
                  label="write {field.name}"
                  take={(text) => (write(field, text), true)}
                />
                <span class="inline-block w-8 text-left">{field.unit}</span>
              {/if}
            {:else}
              {#if field.type === 'BOOL' && value !== undefined}<span aria-hidden="true"
                  >{value ? '■' : '□'}</span
                >{/if}
              {value === undefined ? '–' : shortText(field, value)}
            {/if}
          </td>
        </tr>
      {:else}
        <tr><td class="py-2 text-faint">No fields yet: lay them out in the Sight.</td></tr>
      {/each}
    </tbody>
  </table>
</section>
