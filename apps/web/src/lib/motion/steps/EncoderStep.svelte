<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { Device, DriveTrain } from '@fadenkreuz/core';
  import NumberEntry from '../NumberEntry.svelte';
  import { editTrain, ratioTyped } from '../trainEdits.js';

  /** The encoder, as the drive counts it. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);
  const locked = $derived(train.motor?.from === 'nameplate');
</script>

<LensEntry
  title="increments a revolution"
  class="w-24 font-mono"
  value={train.encoder?.increments ?? ''}
  placeholder="none"
  disabled={locked && train.encoder !== null}
  take={(text) =>
    set({
      encoder:
        text.trim() === ''
          ? null
          : { type: 'incremental', turns: 1, inertia: 0, ...train.encoder, increments: ratioTyped(text) },
    })}
/>
{#if train.encoder}
  {@const encoder = train.encoder}
  <label class="lens-row"
    >type <select
      class="inplace w-36"
      aria-label="type of the encoder"
      value={encoder.type}
      onchange={(event) =>
        set({ encoder: { ...encoder, type: event.currentTarget.value as typeof encoder.type } })}
    >
      <option value="incremental">incremental</option><option value="absolute">absolute</option>
    </select></label
  >
  {#if encoder.type === 'absolute'}
    <NumberEntry
      title="revolutions told apart"
      value={encoder.turns}
      take={(turns) => set({ encoder: { ...encoder, turns: turns! } })}
    />
  {/if}
{/if}
