<script lang="ts">
  import { deviceKinds, freeAddress } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { deviceFrom, freeName, type NewDevice } from './newDevice.js';
  import { untrack } from 'svelte';

  let { ondone, oncancel }: { ondone: (id: string) => void; oncancel: () => void } = $props();
  const desk = useDesk();

  const entry: NewDevice = $state(
    untrack(() => ({
      name: freeName(desk.cell, 'part_x1'),
      designation: '',
      kind: 'other',
      maker: '',
      address: freeAddress(desk.cell),
      commandInstance: 100,
      commandCount: 2,
      feedbackInstance: 101,
      feedbackCount: 2,
      configurationInstance: 102,
      unitBytes: 2,
      updateMs: 20,
    })),
  );
  const bytes = (count: number) => (Number.isFinite(count) ? count * entry.unitBytes : 0);

  function add(event: SubmitEvent) {
    event.preventDefault();
    const device = deviceFrom(desk.cell, { ...entry }, () => crypto.randomUUID());
    if (desk.edit({ edit: 'device.add', device })) ondone(device.id);
  }
</script>

<form onsubmit={add} class="flex flex-col gap-2.5">
  <h2 class="text-lg font-semibold">Add a device by hand</h2>
  <p class="text-faint">For a device of which only the manual's table is known.</p>
  <label class="flex flex-col"
    >name<input class="input font-mono input-sm" bind:value={entry.name} required maxlength="64" /></label
  >
  <label class="flex flex-col"
    >designation<input
      class="input font-mono input-sm"
      bind:value={entry.designation}
      placeholder="=RS3+U1-X1"
    /></label
  >
  <label class="flex flex-col">
    kind
    <select class="select select-sm" bind:value={entry.kind}>
      {#each deviceKinds as kind (kind)}<option>{kind}</option>{/each}
    </select>
  </label>
  <label class="flex flex-col">maker<input class="input input-sm" bind:value={entry.maker} /></label>
  <label class="flex flex-col"
    >address<input class="input font-mono input-sm" bind:value={entry.address} required /></label
  >
  <label class="flex flex-col">
    sizes are counted in
    <select class="select select-sm" bind:value={entry.unitBytes}>
      <option value={1}>bytes</option>
      <option value={2}>16-bit elements</option>
      <option value={4}>32-bit elements</option>
    </select>
  </label>
  {#snippet image(side: 'command' | 'feedback', arrow: string, tone: string)}
    {@const count = side === 'command' ? 'commandCount' : 'feedbackCount'}
    {@const instance = side === 'command' ? 'commandInstance' : 'feedbackInstance'}
    <fieldset class="grid grid-cols-[1fr_1fr] gap-2">
      <legend class={['font-medium', tone]}>{arrow} {side} image</legend>
      <label class="flex flex-col"
        >instance<input
          class="input font-mono input-sm"
          type="number"
          bind:value={entry[instance]}
          required
        /></label
      >
      <label class="flex flex-col"
        >size<input
          class="input font-mono input-sm"
          type="number"
          bind:value={entry[count]}
          required
        /></label
      >
      <p class="col-span-2 text-xs text-faint">
        = <span class="font-mono">{bytes(entry[count])}</span> bytes
      </p>
    </fieldset>
  {/snippet}
  {@render image('command', '▸', 'text-command')}
  {@render image('feedback', '◂', 'text-feedback')}
  <div class="grid grid-cols-2 gap-2">
    <label class="flex flex-col"
      >configuration<input
        class="input font-mono input-sm"
        type="number"
        bind:value={entry.configurationInstance}
        required
      /></label
    >
    <label class="flex flex-col"
      >update, ms<input
        class="input font-mono input-sm"
        type="number"
        step="any"
        bind:value={entry.updateMs}
        required
      /></label
    >
  </div>
  <div class="mt-1 flex gap-2">
    <button class="btn btn-primary btn-sm" type="submit">Add</button>
    <button class="btn btn-sm" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>
