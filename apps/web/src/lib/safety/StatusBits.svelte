<script lang="ts">
  import CodeName from '$lib/controls/CodeName.svelte';
  import InPlace from '$lib/controls/InPlace.svelte';
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    blockKindOf,
    byteOf,
    feedbackOf,
    signalAt,
    statusMeaning,
    type Device,
    type SafetyLogic,
    type SafetyRun,
    type StatusBit,
  } from '@fadenkreuz/core';
  import { editLogic } from './safetyEdits.js';

  interface Props {
    device: Device;
    logic: SafetyLogic;
    run: SafetyRun | undefined;
    steps: number;
  }
  /** The status bits: where each stands by block, offset and bit, what it means, and what it shows. */
  let { device, logic, run, steps }: Props = $props();
  const desk = useDesk();

  const image = $derived(feedbackOf(device));
  const bytes = $derived(image && desk.bytes.get(image.id));
  const blocks = $derived(['', ...(image?.numbering?.blocks.map(({ name }) => name) ?? [])]);
  const set = (status: StatusBit[]) => editLogic(desk, device, { status });
  const change = (id: string, part: Partial<StatusBit>) =>
    set(logic.status.map((bit) => (bit.id === id ? { ...bit, ...part } : bit)));
  function add() {
    const from = logic.blocks.find((b) => blockKindOf(b).family === 'output') ?? logic.blocks[0];
    if (!from) return;
    const taken = new Set(logic.status.map(({ offset, bit }) => offset * 8 + bit));
    let at = 0;
    while (taken.has(at)) at += 1;
    const fresh = { shows: 'value' as const, beam: 1, not: false, block: '', offset: at >> 3, bit: at & 7 };
    set([...logic.status, { id: crypto.randomUUID(), from: from.id, ...fresh }]);
  }
  function live(bit: StatusBit): boolean | undefined {
    const byte = image && byteOf(bit, image);
    return byte === undefined || !bytes ? undefined : ((bytes[byte]! >> bit.bit) & 1) === 1;
  }
  function simulated(bit: StatusBit): boolean | undefined {
    void steps;
    return run?.shows(bit);
  }
  const whole = (text: string, take: (n: number) => boolean, most: number): boolean => {
    const n = Number(text);
    if (/^\d+$/.test(text.trim()) && n <= most) return take(n);
    desk.note = { says: `${text} is no number from 0 to ${most}.`, cure: 'Type it as in the manual.' };
    return false;
  };
  const mark = (on: boolean | undefined) => (on === undefined ? '–' : on ? '■ 1' : '□ 0');
</script>

<table class="w-full border-collapse text-sm" aria-label="status bits">
  <thead>
    <tr class="border-b border-base-content text-left text-xs text-faint">
      {#if blocks.length > 1}<th class="py-1 pr-2 font-normal">block</th>{/if}
      <th class="py-1 pr-2 text-right font-normal">offset</th>
      <th class="py-1 pr-2 text-right font-normal">bit</th>
      <th class="py-1 pr-2 font-normal">field</th>
      <th class="py-1 pr-2 font-normal">shows</th>
      <th class="py-1 pr-2 font-normal">means</th>
      <th class="py-1 pr-2 text-right font-normal">desk</th>
      <th class="py-1 pr-2 text-right font-normal">bench</th>
      <th><span class="sr-only">remove</span></th>
    </tr>
  </thead>
  <tbody>
    {#each logic.status as bit, i (bit.id)}
      {@const place = image && signalAt(bit, image)}
      {@const source = logic.blocks.find(({ id }) => id === bit.from)}
      <tr class="border-b border-base-300 align-top">
        {#if blocks.length > 1}
          <td class="py-0.5 pr-2">
            <select
              class="inplace"
              aria-label="block of bit {i + 1}"
              value={bit.block}
              onchange={(event) => change(bit.id, { block: event.currentTarget.value })}
            >
              {#each blocks as name (name)}<option value={name}>{name || 'image'}</option>{/each}
            </select>
          </td>
        {/if}
        <td class="py-0.5 pr-2">
          <InPlace
            class="w-12 text-right font-mono"
            label="offset of bit {i + 1}"
            value={String(bit.offset)}
            take={(text) => whole(text, (offset) => change(bit.id, { offset }), 1499)}
          />
        </td>
        <td class="py-0.5 pr-2">
          <InPlace
            class="w-10 text-right font-mono"
            label="bit of bit {i + 1}"
            value={String(bit.bit)}
            take={(text) => whole(text, (to) => change(bit.id, { bit: to }), 7)}
          />
        </td>
        <td class="min-w-32 py-0.5 pr-2 font-mono">
          {#if place}<CodeName name={place.signal.name} />{:else}–{/if}
        </td>
        <td class="py-0.5 pr-2">
          <LongSelect
            class="max-w-40"
            text={source?.name ?? ''}
            aria-label="source of bit {i + 1}"
            value={bit.from}
            onchange={(event) => change(bit.id, { from: event.currentTarget.value, shows: 'value' })}
          >
            {#each logic.blocks as { id, name } (id)}<option value={id}>{name}</option>{/each}
          </LongSelect>
          {#if source?.is === 'muting' || source?.is === 'reset' || source?.is === 'curtain'}
            <select
              class="inplace"
              aria-label="what bit {i + 1} shows"
              value={bit.shows}
              onchange={(event) => change(bit.id, { shows: event.currentTarget.value as StatusBit['shows'] })}
            >
              <option value="value">its value</option>
              {#if source.is === 'muting'}<option value="muting">that it mutes</option>{/if}
              {#if source.is === 'reset'}<option value="reset wanted">that it waits</option>{/if}
              {#if source.is === 'curtain'}<option value="beam">a beam</option>{/if}
            </select>
          {/if}
          {#if bit.shows === 'beam'}
            <InPlace
              class="w-10 text-right font-mono"
              label="beam of bit {i + 1}"
              value={String(bit.beam)}
              take={(text) => whole(text, (beam) => change(bit.id, { beam: Math.max(1, beam) }), 256)}
            />
          {/if}
          <label class="text-xs whitespace-nowrap text-faint"
            >not <input
              type="checkbox"
              class="checkbox rounded-sm checkbox-xs"
              aria-label="bit {i + 1} turned round"
              checked={bit.not}
              onchange={(event) => change(bit.id, { not: event.currentTarget.checked })}
            /></label
          >
        </td>
        <td class="py-0.5 pr-2 text-faint">{statusMeaning(logic, bit)}</td>
        <td class="py-0.5 pr-2 text-right font-mono" data-desk={place?.signal.name}>{mark(simulated(bit))}</td
        >
        <td class="py-0.5 pr-2 text-right font-mono" data-bench={place?.signal.name}>{mark(live(bit))}</td>
        <td class="w-8 text-right">
          <RemoveButton
            label="Remove bit {i + 1}"
            onclick={() => set(logic.status.filter(({ id }) => id !== bit.id))}
          />
        </td>
      </tr>
    {/each}
  </tbody>
</table>
<button class="btn mt-1 btn-sm" disabled={logic.blocks.length === 0} onclick={add}>Add a status bit</button>
