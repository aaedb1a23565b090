<script lang="ts">
  import { deviceKinds, freeAddress, nextName, protocolById } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { deviceFrom, type NewDevice } from './newDevice.js';
  import { byHandProtocols, formsOf } from './protocols/list.js';
  import { untrack } from 'svelte';

  let { ondone, oncancel }: { ondone: (id: string) => void; oncancel: () => void } = $props();
  const desk = useDesk();

  let protocol = $state(byHandProtocols[0]!);
  const entry: NewDevice = $state(
    untrack(() => ({
      name: nextName(desk.cell, 'other'),
      designation: '',
      kind: 'other',
      maker: '',
      address: freeAddress(desk.cell, 'other'),
    })),
  );
  /** What the manual says in the words of each protocol; what was typed for one stays when another is looked at. */
  const owns = $state(
    byHandProtocols.map((id) => {
      const { initial, form, link } = formsOf(id).byHand!;
      return { id, form, link, entry: initial() };
    }),
  );
  const own = $derived(owns.find(({ id }) => id === protocol)!);

  /** What was proposed: it follows the kind until somebody types another. */
  let proposed = untrack(() => ({ name: entry.name, address: entry.address }));
  function ofKind() {
    const next = { name: nextName(desk.cell, entry.kind), address: freeAddress(desk.cell, entry.kind) };
    if (entry.name === proposed.name) entry.name = next.name;
    if (entry.address === proposed.address) entry.address = next.address;
    proposed = next;
  }

  function add(event: SubmitEvent) {
    event.preventDefault();
    const newId = () => crypto.randomUUID();
    const device = deviceFrom({ ...entry }, own.link(desk.cell, $state.snapshot(own.entry), newId), newId);
    if (desk.edit({ edit: 'device.add', device })) ondone(device.id);
  }
</script>

<form onsubmit={add} class="flex flex-col gap-2.5">
  <h2 class="text-lg font-semibold">Add a device by hand</h2>
  <p class="text-faint">For a device of which only the manual's table is known.</p>
  <label class="flex flex-col">
    protocol
    <select class="select select-sm" bind:value={protocol}>
      {#each byHandProtocols as id (id)}<option value={id}>{protocolById(id).title}</option>{/each}
    </select>
  </label>
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
    <select class="select select-sm" bind:value={entry.kind} onchange={ofKind}>
      {#each deviceKinds as kind (kind)}<option>{kind}</option>{/each}
    </select>
  </label>
  <label class="flex flex-col">maker<input class="input input-sm" bind:value={entry.maker} /></label>
  <label class="flex flex-col"
    >address<input class="input font-mono input-sm" bind:value={entry.address} required /></label
  >
  <own.form entry={own.entry} />
  <label class="flex flex-col"
    >update, ms<input
      class="input font-mono input-sm"
      type="number"
      step="any"
      bind:value={own.entry.updateMs}
      required
    /></label
  >
  <div class="mt-1 flex gap-2">
    <button class="btn btn-primary btn-sm" type="submit">Add</button>
    <button class="btn btn-sm" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>
