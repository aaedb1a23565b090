<script lang="ts">
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { readyMade, readyMadeFor, showsPart, whenPresent, type Exchange } from '@fadenkreuz/core';
  import { onMount } from 'svelte';
  import { HandRecorder } from './handRecorder.svelte.js';

  /** A new exchange: ready-made of the roles of a device, recorded by hand, or empty. */
  let { onmade }: { onmade: (id: string) => void } = $props();
  const desk = useDesk();

  let device = $state(desk.chosen?.id ?? desk.cell.devices[0]?.id ?? '');
  const own = $derived(desk.cell.devices.find((d) => d.id === device));
  const offered = $derived(own ? readyMadeFor(own) : []);
  let recipe = $state('');
  let part = $state('');
  const chosen = $derived(offered.find(({ id }) => id === recipe) ?? offered[0]);
  const partners = $derived(desk.cell.devices.filter((d) => d.id !== device && showsPart(d)));

  const newId = () => crypto.randomUUID();
  function add(exchange: Exchange) {
    const taken = new Set(desk.cell.exchanges.map((e) => e.name));
    let { name } = exchange;
    for (let n = 2; taken.has(name); n += 1) name = `${exchange.name} ${n}`;
    if (desk.edit({ edit: 'exchange.add', exchange: { ...exchange, name } })) onmade(exchange.id);
  }
  function make() {
    const ready = readyMade.find(({ id }) => id === chosen?.id);
    if (!own || !ready) return;
    const made = ready.make(own, newId);
    const from = partners.find((d) => d.id === part);
    add(from ? whenPresent(from, made, newId) : made);
  }

  const recorder = new HandRecorder(desk);
  onMount(() => () => recorder.end());
  $effect(() => {
    desk.live.show(
      'recorded',
      recorder.recording ? desk.cell.devices.flatMap((d) => d.links.map((l) => l.id)) : [],
    );
    return () => desk.live.show('recorded', []);
  });
  async function record() {
    if (!recorder.recording) return recorder.start();
    const draft = await recorder.stop();
    if (draft) add(draft);
    else
      desk.note = {
        says: 'Nothing was commanded while it was recorded.',
        cure: 'Record again, and write commands on the bench meanwhile.',
      };
  }
</script>

<div class="flex flex-wrap items-center gap-2">
  <LongSelect
    class="max-w-60 font-mono"
    text={own?.name ?? ''}
    aria-label="device of the new exchange"
    bind:value={device}
  >
    {#each desk.cell.devices as { id, name } (id)}<option value={id}>{name}</option>{/each}
  </LongSelect>
  <select
    class="select w-56 select-sm"
    aria-label="ready-made exchange"
    value={chosen?.id ?? ''}
    disabled={offered.length === 0}
    onchange={(event) => (recipe = event.currentTarget.value)}
  >
    {#each offered as { id, title } (id)}<option value={id}>{title}</option>{:else}<option value=""
        >none for its roles</option
      >{/each}
  </select>
  {#if partners.length > 0 && chosen}
    <LongSelect
      class="max-w-60"
      text={part === '' ? 'at once' : `when ${partners.find((d) => d.id === part)?.name ?? ''} has a part`}
      aria-label="when a part is present"
      bind:value={part}
    >
      <option value="">at once</option>
      {#each partners as { id, name } (id)}<option value={id}>when {name} has a part</option>{/each}
    </LongSelect>
  {/if}
  <button class="btn btn-sm" disabled={!chosen} onclick={make}>Add</button>
  <button
    class="btn btn-ghost btn-sm"
    onclick={() =>
      add({ id: newId(), name: 'new exchange', note: '', preconditions: [], variables: [], steps: [] })}
    >Empty</button
  >
  <button
    class="btn ml-auto btn-sm"
    disabled={!desk.running}
    title={desk.running ? 'what is done by hand on the bench becomes a draft' : 'Start the bench first'}
    onclick={record}
    >{recorder.recording ? `Stop and make a draft (${recorder.count} changes)` : 'Record by hand'}</button
  >
</div>
