<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    placedSet,
    Problem,
    readSetText,
    setText,
    setWrites,
    type Device,
    type ParameterSet,
    type PlacedSet,
  } from '@fadenkreuz/core';
  import { planSet } from './counting.js';

  /** Sets of a person's own: made of what is planned or typed, for all devices that have their parameters. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();

  const fitting = $derived(desk.cell.sets.flatMap((set) => placedSet(set, device) ?? []));
  const others = $derived(desk.cell.sets.length - fitting.length);
  /** The set that is written or changed; its text. */
  let edited = $state<{ id: string; title: string; reason: string; text: string } | undefined>();

  const keep = (sets: ParameterSet[]) => desk.edit({ edit: 'cell.set', set: { sets } });
  function begin() {
    const planned = device.description.parameters.flatMap(({ code, name, planned: to }) =>
      to === null ? [] : [{ parameter: code || name, to }],
    );
    edited = { id: crypto.randomUUID(), title: '', reason: '', text: setText({ steps: planned }) };
  }
  function said(work: () => boolean) {
    try {
      return work();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const { says, cure } = error.report();
      desk.note = { says, cure };
      return false;
    }
  }
  function save() {
    const now = edited;
    if (!now) return;
    const kept = said(() => {
      const { id, title, reason } = now;
      const set = { id, title: title.trim(), reason: reason.trim(), steps: readSetText(now.text) };
      const { sets } = desk.cell;
      return keep(sets.some((s) => s.id === id) ? sets.map((s) => (s.id === id ? set : s)) : [...sets, set]);
    });
    if (kept) edited = undefined;
  }
  const remove = (id: string) => keep(desk.cell.sets.filter((s) => s.id !== id));

  function plan({ set, steps }: PlacedSet) {
    const edit = planSet(device, set.title, steps);
    if (edit) desk.edit(edit);
  }
  const write = (placed: PlacedSet) =>
    said(() => {
      void desk.parameters.write(device.id, setWrites(placed));
      return true;
    });
  /** Other devices that have all parameters of a set. */
  const alike = ({ set }: PlacedSet) =>
    desk.cell.devices.flatMap((d) => {
      const placed = d.id === device.id ? undefined : placedSet(set, d);
      return placed ? [{ device: d, placed }] : [];
    });
  function planAlike(placed: PlacedSet) {
    for (const other of alike(placed)) {
      const edit = planSet(other.device, placed.set.title, other.placed.steps);
      if (edit) desk.edit(edit);
    }
  }
</script>

{#each fitting as placed (placed.set.id)}
  {@const { set, steps, sequence } = placed}
  {@const more = alike(placed).length}
  <div class="border-b border-base-300 py-2">
    <p class="font-semibold wrap-anywhere">{set.title}</p>
    {#if set.reason}<p class="text-xs wrap-anywhere text-faint">{set.reason}</p>{/if}
    <ol class="mt-1 list-decimal pl-5 text-xs">
      {#each steps as { parameter, to }, i (i)}
        <li><span class="font-mono">{parameter.code}</span> {parameter.name} = {to}</li>
      {/each}
    </ol>
    <div class="mt-1 flex flex-wrap gap-1">
      {#if !sequence}
        <button class="btn btn-sm" onclick={() => plan(placed)}>Plan these {steps.length}</button>
        {#if more > 0}
          <button class="btn btn-sm" onclick={() => planAlike(placed)}
            >Plan them for {more} more {more === 1 ? 'device' : 'devices'}</button
          >
        {/if}
      {/if}
      <button
        class="btn btn-sm"
        disabled={!desk.armed}
        title={desk.armed ? undefined : 'Writes to the device: arm first.'}
        onclick={() => write(placed)}>Write in this order</button
      >
      <button
        class="btn btn-ghost btn-sm"
        onclick={() => (edited = { id: set.id, title: set.title, reason: set.reason, text: setText(set) })}
        >Change</button
      >
      <button class="btn btn-ghost btn-sm" onclick={() => remove(set.id)}>Remove</button>
    </div>
  </div>
{/each}
{#if others > 0}
  <p class="py-1 text-xs text-faint">
    {others} more of this cell {others === 1 ? 'is' : 'are'} for devices with other parameters.
  </p>
{/if}
{#if edited}
  <form
    class="mt-2 flex flex-col gap-2"
    aria-label="set of your own"
    onsubmit={(event) => {
      event.preventDefault();
      save();
    }}
  >
    <label class="flex flex-col text-xs text-faint"
      >title <input class="input input-sm" maxlength="60" required bind:value={edited.title} /></label
    >
    <label class="flex flex-col text-xs text-faint"
      >reason <input class="input input-sm" maxlength="250" bind:value={edited.reason} /></label
    >
    <label class="flex flex-col text-xs text-faint"
      >steps, one a line: code or name = value
      <textarea class="textarea h-32 font-mono text-sm" bind:value={edited.text}></textarea></label
    >
    <div class="flex gap-1">
      <button class="btn btn-sm">Keep</button>
      <button type="button" class="btn btn-ghost btn-sm" onclick={() => (edited = undefined)}>Cancel</button>
    </div>
  </form>
{:else}
  <button class="btn mt-1 btn-sm" onclick={begin}>A set of your own</button>
{/if}
