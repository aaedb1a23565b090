<script lang="ts">
  import { fitOf, type Device, type Restorable } from '@fadenkreuz/core';
  import EarlierOptions from '$lib/controls/EarlierOptions.svelte';
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { EarlierStates } from '$lib/desk/earlier.svelte.js';
  import type { Comparison } from './comparison.svelte.js';
  import SnapshotsPanel from './SnapshotsPanel.svelte';
  import { untrack } from 'svelte';

  interface Props {
    device: Device;
    comparison: Comparison;
    restored: Restorable | undefined;
    /** Chooses what differs from the other side, to be written. */
    onrestore: () => void;
  }
  /** What the values are compared with, and whether a snapshot fits what stands there. */
  let { device, comparison, restored, onrestore }: Props = $props();
  const desk = useDesk();
  const states = new EarlierStates(
    () => desk.cell.id,
    (note) => (desk.note = note),
  );
  $effect(() => {
    if (desk.unsaved === 0 && desk.cell) void states.load();
  });
  const id = $derived(device.id);
  // Asked once for each device, not with each edit of its plan.
  $effect(() => {
    const asked = id;
    comparison.said = undefined;
    if (!desk.running) return;
    void desk.parameters.identityOf(untrack(() => device)).then((said) => {
      if (asked === id) comparison.said = said;
    });
  });
  let against = $state('');
  const text = $derived(comparison.earlier?.title ?? comparison.besides?.name ?? 'nothing');

  async function choose(value: string) {
    against = value;
    comparison.beside = /^device (.+)$/.exec(value)?.[1] ?? '';
    comparison.snapshot = comparison.earlier = undefined;
    const version = /^version (\d+)$/.exec(value)?.[1];
    if (version === undefined) return;
    const cell = await states.at(Number(version));
    if (cell && against === value) comparison.earlier = { title: states.titleOf(Number(version)), cell };
  }
  const alike = $derived(comparison.alike);
  const besides = $derived(comparison.besides);
  const snapshot = $derived(comparison.snapshot);
  const said = $derived(comparison.said);
  const fit = $derived(
    snapshot && fitOf(snapshot.identity, said?.identity ?? device.description.identity ?? device.identity),
  );
</script>

<label class="my-1 flex flex-col">
  compare with
  <LongSelect
    {text}
    aria-label="compare with"
    value={against}
    onchange={({ currentTarget }) => void choose(currentTarget.value)}
  >
    <option value="">nothing</option>
    {#if alike.length > 0}
      <optgroup label="devices">
        {#each alike as d (d.id)}<option value="device {d.id}">{d.name}</option>{/each}
      </optgroup>
    {/if}
    <EarlierOptions {states} label="earlier plans" />
  </LongSelect>
</label>
{#if besides && desk.parameters.readOf(besides.id).size === 0}
  <button class="btn mb-2 btn-sm" disabled={!desk.running} onclick={() => desk.parameters.read(besides.id)}
    >Read {besides.name}</button
  >
{/if}
{#if fit && restored}
  <p class={['text-xs', fit.fits === 'other' && 'text-error']}>{fit.says}</p>
  {#if fit.fits !== 'other'}<button class="btn my-1 btn-sm" onclick={onrestore}
      >Restore: choose what differs</button
    >{/if}
  {#each restored.left as { name, why } (name)}<p class="text-xs text-faint">{name}: {why}.</p>{/each}
{/if}
<SnapshotsPanel
  {device}
  {said}
  shown={snapshot}
  onshow={(next) => {
    void choose('');
    comparison.snapshot = next;
  }}
/>
