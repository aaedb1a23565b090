<script lang="ts">
  import { replacement } from '@fadenkreuz/core';
  import {
    changesForDevice,
    choicesOf,
    deviceOfChoice,
    factChanges,
    factsOf,
    type AnyDescriber,
  } from '@fadenkreuz/core/describers';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { libraryDescriber, sameProduct, type LibraryLine } from './library.js';
  import RevisionChanges from './RevisionChanges.svelte';

  interface Props {
    line: LibraryLine;
    lines: readonly LibraryLine[];
    describer: AnyDescriber;
  }
  /** A describer beside another revision of itself, and what it would change in the cell. */
  let { line, lines, describer }: Props = $props();
  const desk = useDesk();

  const others = $derived(sameProduct(lines, line).filter((l) => l.id !== line.id));
  let otherId = $state('');
  let other = $state.raw<AnyDescriber>();
  async function compare(id: string) {
    otherId = id;
    const found = others.find((l) => l.id === id);
    other = found && (await libraryDescriber(found));
  }

  /** Devices of the cell; those of the same product first. */
  const devices = $derived(
    [...desk.cell.devices].sort(
      (a, b) =>
        Number(b.identity.productCode === line.product && b.identity.vendor === line.vendor) -
        Number(a.identity.productCode === line.product && a.identity.vendor === line.vendor),
    ),
  );
  let deviceId = $state('');
  const device = $derived(devices.find((d) => d.id === deviceId));
  const [choice] = $derived(choicesOf(describer));
  const fresh = $derived(
    device && choice
      ? deviceOfChoice(describer, choice.id, desk.cell, device, () => crypto.randomUUID())
      : undefined,
  );
  const replaced = $derived(device && fresh ? replacement(device, fresh) : undefined);
  const counted = (what: string) => replaced?.fields.filter((f) => f.what === what).length ?? 0;
  let done = $state('');

  function replace() {
    if (replaced && desk.edit({ edit: 'device.replace', device: replaced.device }))
      done = `${replaced.device.name} is now what this describer says.`;
  }
</script>

{#if others.length > 0}
  <h3 class="lens-heading">Against another revision</h3>
  <select
    class="select w-full select-sm"
    aria-label="another revision"
    value={otherId}
    onchange={(event) => compare(event.currentTarget.value)}
  >
    <option value="">choose</option>
    {#each others as { id, revision, fileName } (id)}<option value={id}>{revision}, {fileName}</option>{/each}
  </select>
  {#if other}
    <RevisionChanges changes={factChanges(factsOf(other), factsOf(describer))} none="Both say the same." />
  {/if}
{/if}

{#if choice && devices.length > 0}
  <h3 class="lens-heading">In this cell</h3>
  <select class="select w-full select-sm" aria-label="a device of the cell" bind:value={deviceId}>
    <option value="">what would change for …</option>
    {#each devices as { id, name } (id)}<option value={id}>{name}</option>{/each}
  </select>
  {#if device}
    <RevisionChanges changes={changesForDevice(device, describer)} none="Nothing would change." />
    <p class="mt-2 text-faint">
      {counted('kept')} fields and parameters stay, {counted('moved')} move, {counted('gone')} go, {counted(
        'new',
      )} come. Its name, address, timing and places in the controller stay.
    </p>
    <button class="btn mt-2 btn-sm" onclick={replace}>Replace {device.name}</button>
    {#if done}<p class="mt-1 text-success" role="status">✓ {done}</p>{/if}
  {/if}
{/if}
