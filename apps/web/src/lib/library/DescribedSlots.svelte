<script lang="ts">
  import {
    deviceOfGsdml,
    devicesOfGsdml,
    factoryPlugs,
    freeSlots,
    movesBetween,
    plugged,
    pluggedInto,
    type Gsdml,
    type Plug,
  } from '@fadenkreuz/core/describers';
  import { freeAddress, kindOfText, nextName, replacement } from '@fadenkreuz/core';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { dragHandle, dragHandleZone, type DndEvent } from 'svelte-dnd-action';
  import { untrack } from 'svelte';

  /** The slots of a PROFINET device: modules plugged in turn, their addresses, and what an insertion would move. */
  interface Props {
    gsdml: Gsdml;
    ondone: (id: string) => void;
    oncancel: () => void;
  }
  let { gsdml, ondone, oncancel }: Props = $props();
  const desk = useDesk();

  let accessId = $state(untrack(() => gsdml.accessPoints[0]?.id ?? ''));
  const access = $derived(gsdml.accessPoints.find((a) => a.id === accessId));
  let plugs = $state.raw<Plug[]>(
    untrack(() => (gsdml.accessPoints[0] ? factoryPlugs(gsdml.accessPoints[0]) : [])),
  );
  let start = $state({ input: 0, output: 0 });
  const now = $derived(access && plugged(gsdml, access, plugs, start));

  type Ordered = Plug & { id: string };
  const ordered: Ordered[] = $derived(plugs.map((plug) => ({ ...plug, id: String(plug.slot) })));
  /** Their order while one is dragged. */
  let dragged = $state.raw<Ordered[] | undefined>();

  let module = $state('');
  let before = $state(-1);
  const free = $derived(access && module ? freeSlots(access, plugs, module) : []);
  const slot = $derived(free[0]);
  /** The plugs with the chosen module in its place, and what that moves: said before it is done. */
  const planned = $derived.by(() => {
    if (!access || !module || slot === undefined) return undefined;
    const plug = { slot, module };
    const at = before < 0 ? plugs.length : before;
    const next = [...plugs.slice(0, at), plug, ...plugs.slice(at)];
    return { next, moves: now ? movesBetween(now, plugged(gsdml, access, next, start)) : [] };
  });
  /** Devices of the cell that were made of this description; one of them may get what is plugged here. */
  const made = $derived(devicesOfGsdml(desk.cell, gsdml));
  let deviceId = $state('');
  const device = $derived(made.find((d) => d.id === deviceId));
  const kind = untrack(() => kindOfText(gsdml.accessPoints[0]?.name ?? '') ?? 'other');
  let name = $state(untrack(() => nextName(desk.cell, kind)));
  let address = $state(untrack(() => freeAddress(desk.cell, kind)));

  /** What is plugged into the chosen device becomes what is worked on. */
  function take(id: string) {
    deviceId = id;
    const one = made.find((d) => d.id === id);
    if (access && one) ({ plugs, start } = pluggedInto(one, access));
    else {
      plugs = access ? factoryPlugs(access) : [];
      start = { input: 0, output: 0 };
    }
  }
  function done(event: SubmitEvent) {
    event.preventDefault();
    if (!access || !now) return;
    const place = device ?? { name: name.trim(), address: address.trim() };
    const fresh = deviceOfGsdml(gsdml, access, now, desk.cell, place, () => crypto.randomUUID());
    const edit = device
      ? { edit: 'device.replace' as const, device: replacement(device, fresh).device }
      : { edit: 'device.add' as const, device: fresh };
    if (desk.edit(edit)) ondone(edit.device.id);
  }
  const nameOf = (id: string) => gsdml.modules.find((m) => m.id === id)?.name ?? id;
  const range = (stretch: { start: number; bytes: number } | null) =>
    stretch ? `${stretch.start}–${stretch.start + stretch.bytes - 1}` : '';
</script>

{#if access && now}
  {#if made.length > 0}
    <h3 class="lens-heading">For</h3>
    <select
      class="select w-full select-sm"
      aria-label="for which device"
      value={deviceId}
      onchange={(event) => take(event.currentTarget.value)}
    >
      <option value="">a new device</option>
      {#each made as { id, name } (id)}<option value={id}>{name}</option>{/each}
    </select>
  {/if}
  <h3 class="lens-heading">Access point</h3>
  <select
    class="select w-full select-sm"
    aria-label="access point"
    value={accessId}
    onchange={(event) => {
      accessId = event.currentTarget.value;
      const chosen = gsdml.accessPoints.find((a) => a.id === accessId);
      plugs = chosen ? factoryPlugs(chosen) : [];
    }}
  >
    {#each gsdml.accessPoints as { id, name } (id)}<option value={id}>{name || id}</option>{/each}
  </select>

  <h3 class="lens-heading">Slots, in the order of plugging</h3>
  <div class="flex gap-3">
    <label
      >inputs from <input
        class="inplace w-14 border-base-300 font-mono"
        type="number"
        min="0"
        bind:value={start.input}
      /></label
    >
    <label
      >outputs <input
        class="inplace w-14 border-base-300 font-mono"
        type="number"
        min="0"
        bind:value={start.output}
      /></label
    >
  </div>
  <table class="mt-1 w-full text-[13px]">
    <thead>
      <tr class="text-left text-xs text-faint">
        <th class="font-medium">slot</th>
        <th class="font-medium">module</th>
        <th class="font-medium">◂ bytes</th>
        <th class="font-medium">▸ bytes</th>
        <th><span class="sr-only">remove</span></th>
      </tr>
    </thead>
    <tbody>
      {#each now.places.filter((p) => p.input || p.output || plugs.some((g) => g.slot === p.slot)) as place (`${place.slot} ${place.subslot} ${place.submodule.id}`)}
        <tr class="border-b border-base-300">
          <td class="py-1 font-mono">{place.slot}.{place.subslot}</td>
          <td>{place.submodule.name || nameOf(place.module)}</td>
          <td class="font-mono text-feedback">{range(place.input)}</td>
          <td class="font-mono text-command">{range(place.output)}</td>
          <td>
            <RemoveButton
              label="take {nameOf(place.module)} out of slot {place.slot}"
              onclick={() => (plugs = plugs.filter((p) => p.slot !== place.slot))}
            />
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if plugs.length > 1}
    <h4 class="mt-2 text-xs text-faint">Order of plugging, by which addresses follow; drag to change it</h4>
    <ol
      class="flex flex-wrap gap-1"
      aria-label="order of plugging"
      use:dragHandleZone={{
        items: dragged ?? ordered,
        flipDurationMs: 0,
        dropTargetStyle: {},
        zoneTabIndex: -1,
        autoAriaDisabled: true,
      }}
      onconsider={({ detail }: CustomEvent<DndEvent<Ordered>>) => (dragged = detail.items)}
      onfinalize={({ detail }: CustomEvent<DndEvent<Ordered>>) => {
        dragged = undefined;
        plugs = detail.items.map(({ slot, module }) => ({ slot, module }));
      }}
    >
      {#each dragged ?? ordered as { id, slot, module } (id)}
        <li class="flex items-center gap-1 rounded-field border border-base-300 pr-2 text-[13px]">
          <span
            class="grid size-[24px] place-items-center text-faint"
            use:dragHandle
            aria-label="drag {nameOf(module)} in slot {slot} to another place">⋮</span
          >
          <span class="font-mono">{slot}</span>
          {nameOf(module)}
        </li>
      {/each}
    </ol>
  {/if}
  <p class="mt-1 text-faint">
    ◂ <span class="font-mono">{now.inputBytes}</span> of {access.maxInput ?? '?'} bytes, ▸
    <span class="font-mono">{now.outputBytes}</span>
    of {access.maxOutput ?? '?'}.
  </p>
  {#each now.troubles as trouble, i (i)}
    <p class="my-1 border-l-[3px] border-base-content pl-3">
      {trouble.says} <span class="text-faint">{trouble.cure}</span>
    </p>
  {/each}

  <h3 class="lens-heading">Plug a module</h3>
  <select class="select w-full select-sm" aria-label="module" bind:value={module}>
    <option value="">choose a module</option>
    {#each access.modules as { target } (target)}<option value={target}>{nameOf(target)}</option>{/each}
  </select>
  {#if module}
    <label class="lens-row"
      >before
      <select class="inplace cursor-pointer" bind:value={before}>
        <option value={-1}>nothing, at the end</option>
        {#each plugs as plug, i (i)}<option value={i}>{nameOf(plug.module)}</option>{/each}
      </select></label
    >
    {#if !planned}
      <p class="text-faint">No slot is free for it.</p>
    {:else}
      <ul class="text-[13px]" aria-label="what it moves">
        {#each planned.moves as move, i (i)}
          <li class={move.side === 'input' ? 'text-feedback' : 'text-command'}>
            {move.side === 'input' ? '◂' : '▸'}
            {move.name}: {move.from === null ? 'new' : `byte ${move.from}`} → {move.to === null
              ? 'gone'
              : `byte ${move.to}`}
          </li>
        {/each}
      </ul>
      <button class="btn mt-2 btn-sm" onclick={() => ((plugs = planned.next), (module = ''))}
        >Plug it into slot {slot}</button
      >
    {/if}
  {/if}
{/if}
<form class="mt-3 flex flex-col gap-2.5" onsubmit={done}>
  {#if !device}
    <label class="flex flex-col"
      >name<input class="input font-mono input-sm" bind:value={name} required maxlength="64" /></label
    >
    <label class="flex flex-col"
      >address<input class="input font-mono input-sm" bind:value={address} required /></label
    >
  {/if}
  <p class="text-faint">
    PROFINET is not spoken on the bench yet; layout, slots, addresses and the load of the network are worked
    out.
  </p>
  <div class="flex gap-2">
    <button class="btn btn-primary btn-sm" type="submit" disabled={!now}
      >{device ? `Change ${device.name}` : 'Add'}</button
    >
    <button class="btn btn-sm" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>
