<script lang="ts">
  import InPlace from '$lib/controls/InPlace.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    countsOf,
    followedScale,
    type Device,
    type DriveTrain,
    type Follows,
    type Role,
  } from '@fadenkreuz/core';
  import { editFollows } from './trainEdits.js';

  interface Props {
    device: Device;
    train: DriveTrain;
    role: Role;
    /** Of the field. */
    name: string;
  }
  /** What the raw number of a field counts, of those that follow the train; nothing for one that does not. */
  let { device, train, role, name }: Props = $props();
  const desk = useDesk();
  const follows = $derived(train.follows.find((f) => f.role === role));
  const set = (part: Partial<Follows>) => editFollows(desk, device, train, role, part);
</script>

{#if follows}
  {#if !followedScale(train, follows)}
    <span class="text-xs text-error"
      >▲ {follows.counts.startsWith('increments') ? 'enter the encoder' : 'enter motor and output'}</span
    >
  {/if}
  <select
    class="inplace"
    aria-label="what {name} counts"
    value={follows.counts}
    onchange={(event) => set({ counts: event.currentTarget.value as Follows['counts'] })}
  >
    {#each countsOf(role) as one (one)}<option value={one}>{one}</option>{/each}
  </select>
  <select
    class="inplace"
    aria-label="decimal places of {name}"
    value={follows.places}
    onchange={(event) => set({ places: Number(event.currentTarget.value) })}
  >
    {#each [0, 1, 2, 3, 4] as places (places)}<option value={places}>{places} places</option>{/each}
  </select>
  {#if follows.counts === 'full scale'}
    <InPlace
      class="w-20 text-right font-mono"
      label="counts of the rated speed in {name}"
      value={String(follows.full)}
      take={(text) => /^[1-9]\d*$/.test(text.trim()) && set({ full: Number(text) })}
    />
  {/if}
{/if}
