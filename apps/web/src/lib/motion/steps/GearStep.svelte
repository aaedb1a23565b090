<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { gearLibrary, type Device, type DriveTrain } from '@fadenkreuz/core';
  import NumberEntry from '../NumberEntry.svelte';
  import { editTrain, ratioTyped } from '../trainEdits.js';

  /** The gear between motor and shaft. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);
  const setGear = (part: Partial<DriveTrain['gear']>) => set({ gear: { ...train.gear, ...part } });
</script>

<label class="lens-row"
  >from the library <select
    class="inplace w-36"
    aria-label="gear of the library"
    value=""
    onchange={(event) => {
      const chosen = gearLibrary.find(({ model }) => model === event.currentTarget.value);
      if (chosen) set({ gear: chosen.gear });
    }}
  >
    <option value="">choose</option>
    {#each gearLibrary as { model } (model)}<option value={model}>{model}</option>{/each}
  </select></label
>
<LensEntry
  title="motor revolutions"
  class="w-20 font-mono"
  value={train.gear.motor}
  take={(text) => setGear({ motor: ratioTyped(text) })}
/>
<LensEntry
  title="for shaft revolutions"
  class="w-20 font-mono"
  value={train.gear.shaft}
  take={(text) => setGear({ shaft: ratioTyped(text) })}
/>
<NumberEntry
  title="efficiency, 0 to 1"
  value={train.gear.efficiency}
  take={(efficiency) => setGear({ efficiency: efficiency! })}
/>
<NumberEntry
  title="moment of inertia"
  unit="kg·cm²"
  value={train.gear.inertia}
  take={(inertia) => setGear({ inertia: inertia! })}
/>
