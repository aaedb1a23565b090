<script lang="ts">
  import { fitOf, snapshotValues, Snapshot, type Device } from '@fadenkreuz/core';
  import { SnapshotHeads, type NewSnapshot, type SnapshotHead } from '$lib/api/parameters.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { ParameterFollower } from '$lib/desk/parameterFollower.svelte.js';
  import { send } from '$lib/desk/send.js';

  type Said = Awaited<ReturnType<ParameterFollower['identityOf']>>;
  interface Props {
    device: Device;
    /** The one that is compared with now. */
    shown: Snapshot | undefined;
    /** What the device says it is; undefined while it was not asked. */
    said: Said | undefined;
    onshow: (snapshot: Snapshot | undefined) => void;
  }
  /** What stood in devices at some time: kept, compared with, restored. */
  let { device, shown, said, onshow }: Props = $props();
  const desk = useDesk();
  const path = $derived(`/api/cells/${desk.cell.id}/snapshots`);
  let heads = $state.raw<SnapshotHead[]>([]);
  $effect(() => {
    void send('GET', path, SnapshotHeads).then((answer) => {
      if (answer.ok) heads = answer.value;
    });
  });
  const read = $derived(desk.parameters.readOf(device.id));
  const own = $derived(heads.filter((h) => h.device.id === device.id));
  const others = $derived(heads.filter((h) => h.device.id !== device.id && fits(h) !== 'other'));
  const fits = (head: SnapshotHead) => fitOf(head.identity, identity).fits;
  const identity = $derived(said?.identity ?? device.description.identity ?? device.identity);

  async function keep() {
    const values = snapshotValues(device.description.parameters, read);
    const snapshot: NewSnapshot = {
      ...{ id: crypto.randomUUID(), title: `${device.name}, ${values.length} values` },
      device: { id: device.id, name: device.name },
      ...{ identity, serialNumber: said?.serialNumber ?? device.serialNumber, values },
    };
    const answer = await send('POST', path, SnapshotHeads, snapshot);
    if (answer.ok) heads = answer.value;
    desk.note = answer.ok ? null : answer.problem;
  }
  async function show(head: SnapshotHead) {
    if (shown?.id === head.id) return onshow(undefined);
    const answer = await send('GET', `${path}/${head.id}`, Snapshot);
    if (answer.ok) onshow(answer.value);
    desk.note = answer.ok ? null : answer.problem;
  }
  async function remove(head: SnapshotHead) {
    const answer = await send('DELETE', `${path}/${head.id}`, SnapshotHeads);
    if (answer.ok) heads = answer.value;
    if (shown?.id === head.id) onshow(undefined);
    desk.note = answer.ok ? null : answer.problem;
  }
  const when = (at: string) =>
    new Date(at).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' });
</script>

<p class="mb-1 text-xs text-faint">
  {identity.productName || 'It'}, revision
  <span class="font-mono">{identity.majorRevision}.{identity.minorRevision}</span>: {said
    ? 'as the device says it.'
    : 'as it is planned; the device does not say it.'}
</p>
<button class="btn btn-sm" disabled={read.size === 0} onclick={keep}
  >Keep a snapshot of {read.size} values</button
>
{#if read.size === 0}<p class="text-xs text-faint">Read the device first.</p>{/if}
{#each [{ title: '', list: own }, { title: 'Of devices of the same product', list: others }] as { title, list } (title)}
  {#if title && list.length > 0}<p class="mt-2 text-xs font-semibold">{title}</p>{/if}
  <ul class="text-xs">
    {#each list as head (head.id)}
      <li class="border-b border-base-300 py-1.5">
        <p class="font-semibold wrap-anywhere">{head.title}</p>
        <p class="text-faint">
          {when(head.at)} · {head.count} values · revision
          <span class="font-mono">{head.identity.majorRevision}.{head.identity.minorRevision}</span> · {head.person}
        </p>
        <button class="btn btn-xs" aria-pressed={shown?.id === head.id} onclick={() => show(head)}
          >{shown?.id === head.id ? 'Do not compare' : 'Compare'}</button
        >
        <button class="btn btn-xs" onclick={() => remove(head)}>Delete</button>
      </li>
    {/each}
  </ul>
{/each}
