<script lang="ts">
  import { roleTyped } from '$lib/controls/roleTyped.js';
  import {
    asSignal,
    codecOf,
    Field,
    fieldAddress,
    roleNames,
    factsOfRole,
    sceneOf,
    swappedByte,
    type ChangedPlace,
    type HeldBytes,
    type ImagePlace,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { follow } from '$lib/frame/follow.js';
  import { ageText } from './benchTexts.js';
  import { untrack } from 'svelte';

  interface Props {
    place: ImagePlace;
    change: ChangedPlace & { restless: boolean };
    /** The image at the first mark and at the last. */
    from: HeldBytes;
    to: HeldBytes;
    /** Time of the first mark. */
    begun: number;
  }
  /** One part of an image that changed; where it has no name yet, the entries that give it one. */
  let { place, change, from, to, begun }: Props = $props();
  const desk = useDesk();

  const scene = $derived(sceneOf(desk.cell, place));
  let name = $state('');
  let role = $state('');
  let reading = $state(0);
  /** The single bits of bytes that may be no number. */
  let asBits = $state(false);

  const chosen = $derived(change.readings[reading]);
  const bit = $derived(change.bits === 1);
  /** What it would be as a field. */
  const field = $derived(
    change.signal
      ? undefined
      : Field.parse({
          ...{ id: untrack(() => crypto.randomUUID()), name: name.trim() || 'unnamed', at: change.at },
          ...(chosen
            ? { type: chosen.type, bits: chosen.bits, order: chosen.bits > 8 ? chosen.order : null }
            : { type: bit ? 'BOOL' : 'BITS', bits: change.bits }),
        }),
  );
  const signal = $derived(change.signal ?? asSignal(field!));
  const at = $derived(fieldAddress(scene, signal));
  const texts = $derived([textOf(from), textOf(to)] as const);
  const roles = $derived(
    roleNames.filter((known) => {
      const { direction, reads } = factsOfRole(known);
      const fits = direction === 'either' || direction === place.image.direction;
      return fits && reads === (bit ? 'bit' : 'number');
    }),
  );

  const codec = $derived(codecOf(field ? { ...place.image, fields: [field] } : place.image));

  function textOf({ bytes }: HeldBytes): string {
    const { swapped } = place.image;
    const own = swapped ? bytes.map((_, b) => bytes[swappedByte(b, bytes.length)] ?? 0) : bytes;
    if (own.length < codec.bytes) return '–';
    codec.decode(new DataView(own.buffer, own.byteOffset, own.byteLength));
    const index = codec.signals.findIndex((s) => s.id === signal.id);
    return index < 0 ? '–' : codec.textAt(index);
  }

  function add(event: SubmitEvent) {
    event.preventDefault();
    const given = roleTyped(role, (note) => (desk.note = note));
    if (given === undefined) return;
    if (field) desk.edit({ edit: 'field.add', image: place.image.id, field: { ...field, role: given } });
  }
</script>

<tr class={['border-b border-base-300 align-top [&>td]:py-1 [&>td]:pr-2', change.restless && 'text-faint']}>
  <td class="font-mono whitespace-nowrap">
    <button
      class="cursor-pointer text-left underline"
      title="show it in Sight"
      onclick={() => follow(desk, { to: 'bit', image: place.image.id, bit: change.at })}
      >{at.controller} · {at.device}</button
    >
  </td>
  <td class="font-mono break-words">{change.signal?.name ?? '–'}</td>
  <td class="font-mono break-words">{texts[0]} → {texts[1]}</td>
  <td class="text-right font-mono" title={change.restless ? 'it changed before the mark as well' : ''}
    >{change.times}{#if change.restless}<span class="block font-sans whitespace-nowrap">by itself</span
      >{/if}</td
  >
  <td class="pl-3 font-mono whitespace-nowrap text-faint">
    {ageText(change.first - begun)}{change.times > 1 ? `, ${ageText(change.last - begun)}` : ''}
  </td>
  <td>
    {#if field}
      <form class="flex flex-wrap items-center gap-1.5" onsubmit={add}>
        <input
          class="input w-36 font-mono input-xs"
          bind:value={name}
          required
          placeholder="name"
          aria-label="name of {at.device}"
          autocomplete="off"
        />
        {#if change.readings.length > 0}
          <select class="select w-64 select-xs" bind:value={reading} aria-label="type of {at.device}">
            {#each change.readings as { type, bits, order, minimum, maximum }, i (i)}
              <option value={i}
                >{type}{bits > 8 ? ` ${order === 'little' ? 'low' : 'high'} byte first` : ''}: {minimum} … {maximum}</option
              >
            {/each}
          </select>
        {/if}
        <input
          class="input w-28 input-xs"
          bind:value={role}
          placeholder="role"
          list="roles-{change.at}-{change.bits}"
          aria-label="role of {at.device}"
          autocomplete="off"
        />
        <datalist id="roles-{change.at}-{change.bits}">
          {#each roles as known (known)}<option value={factsOfRole(known).title}></option>{/each}
        </datalist>
        <button class="btn btn-xs">Add</button>
        {#if !bit && !asBits}
          <button type="button" class="cursor-pointer text-xs underline" onclick={() => (asBits = true)}
            >as bits</button
          >
        {/if}
      </form>
    {/if}
  </td>
</tr>
{#if asBits && field}
  {#each change.after as after, byte (byte)}
    {#each { length: 8 } as _, k (k)}
      {@const differs = ((after ^ (change.before[byte] ?? 0)) >> k) & 1}
      {#if differs}
        <tr class="border-b border-base-300">
          <td class="py-1 pl-6 font-mono" colspan="5">
            {fieldAddress(scene, { ...signal, at: change.at + byte * 8 + k, bits: 1 }).device}:
            {((change.before[byte] ?? 0) >> k) & 1} → {(after >> k) & 1}
          </td>
          <td class="py-1">
            <button
              class="btn btn-xs"
              onclick={() =>
                follow(desk, { to: 'bit', image: place.image.id, bit: change.at + byte * 8 + k })}
              >Show in Sight</button
            >
          </td>
        </tr>
      {/if}
    {/each}
  {/each}
{/if}
