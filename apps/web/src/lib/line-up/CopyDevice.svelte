<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import { copiesOf, exchangesForCopies, Problem, type Copies, type Device } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** Copies of a device: names, designations and addresses counted up, collisions shown before anything is added. */
  let { device, oncopied }: { device: Device; oncopied: (id: string) => void } = $props();
  const desk = useDesk();

  let count = $state(1);
  let namePattern = $state('');
  let designationPattern = $state('');
  let first = $state(2);
  let addressStep = $state(1);

  const preview: Copies | { says: string } = $derived.by(() => {
    const plan = {
      count: Math.max(1, Math.min(200, count || 1)),
      namePattern,
      designationPattern,
      first,
      addressStep,
    };
    try {
      return copiesOf(desk.cell, device, plan, () => crypto.randomUUID());
    } catch (error) {
      if (error instanceof Problem) return { says: error.message };
      throw error;
    }
  });

  function add() {
    if (!('devices' in preview)) return;
    const { devices } = preview;
    const exchanges = exchangesForCopies(desk.cell, device, devices, () => crypto.randomUUID());
    if (desk.edit({ edit: 'device.copy', devices, exchanges })) oncopied(devices[0]!.id);
  }
</script>

<LensSection title="Copy">
  <div class="lens-row">
    <label class="flex items-center gap-2"
      >copies <input
        class="inplace w-14 border-base-300 font-mono"
        type="number"
        min="1"
        max="200"
        bind:value={count}
      /></label
    >
    <label class="flex items-center gap-2"
      >address + <input
        class="inplace w-14 border-base-300 font-mono"
        type="number"
        bind:value={addressStep}
      /></label
    >
  </div>
  <label class="lens-row"
    >name <input
      class="inplace w-36 border-base-300 font-mono"
      placeholder="counts up"
      bind:value={namePattern}
    /></label
  >
  <label class="lens-row"
    >designation <input
      class="inplace w-36 border-base-300 font-mono"
      placeholder="counts up"
      bind:value={designationPattern}
    /></label
  >
  {#if namePattern.includes('#') || designationPattern.includes('#')}
    <label class="lens-row"
      >first number <input
        class="inplace w-14 border-base-300 font-mono"
        type="number"
        min="0"
        bind:value={first}
      /></label
    >
  {/if}
  {#if 'devices' in preview}
    <ul class="mt-1 text-xs" aria-label="copies to be added">
      {#each preview.devices.slice(0, 8) as copy (copy.id)}
        <li class="flex justify-between gap-2 font-mono">
          <span class="min-w-0 wrap-anywhere">{copy.name}</span><span>{copy.address}</span>
        </li>
      {/each}
      {#if preview.devices.length > 8}<li class="text-faint">and {preview.devices.length - 8} more</li>{/if}
    </ul>
    {#each preview.collisions as { device: copy, what, value, with: other }, i (i)}
      <p class="mt-1 border-l-[3px] border-base-content pl-2 text-xs">
        {copy}: {what === 'subnet'
          ? `${value} lies outside ${other}`
          : `${what} ${value} is taken by ${other}`}
      </p>
    {/each}
    <button class="btn mt-2 btn-sm" disabled={preview.collisions.length > 0} onclick={add}
      >Add {preview.devices.length === 1 ? 'the copy' : `${preview.devices.length} copies`}</button
    >
  {:else}
    <p class="mt-1 text-xs" role="status">{preview.says}</p>
  {/if}
</LensSection>
