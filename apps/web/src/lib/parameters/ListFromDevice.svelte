<script lang="ts">
  import type { Device, Parameter } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { takeParameters } from './parameterEdits.js';

  /** Asks the device itself which parameters it has, and takes its answer once a person has seen how much it is. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();
  let asking = $state(false);
  let listed = $state.raw<{ of: string; parameters: Parameter[] }>();
  const own = $derived(listed?.of === device.id ? listed.parameters : undefined);

  async function ask() {
    const of = device.id;
    asking = true;
    const parameters = await desk.parameters.listedBy(of);
    asking = false;
    listed = parameters && { of, parameters };
  }
  function take() {
    if (own && desk.edit(takeParameters(device, { parameters: own }, false))) listed = undefined;
  }
</script>

{#if own && own.length > 0}
  <button class="btn btn-primary btn-sm" onclick={take}>Take the {own.length} that it tells of</button>
  <button class="btn btn-sm" onclick={() => (listed = undefined)}>Cancel</button>
{:else}
  <button
    class="btn btn-sm"
    disabled={!desk.running || asking}
    title={desk.running ? undefined : 'The bench does not run.'}
    onclick={ask}>{asking ? 'Asking …' : 'Ask the device for its list'}</button
  >
  {#if own}<span class="text-xs text-faint">It tells of none.</span>{/if}
{/if}
