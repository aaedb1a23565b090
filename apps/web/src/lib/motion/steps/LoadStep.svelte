<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { axisUnit, type Device, type DriveTrain } from '@fadenkreuz/core';
  import NumberEntry from '../NumberEntry.svelte';
  import { editTrain } from '../trainEdits.js';

  /** What is moved. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);
  const unit = $derived(axisUnit(train.output));
  const setLoad = (part: Partial<DriveTrain['load']>) => set({ load: { ...train.load, ...part } });
</script>

{#if unit === 'mm'}
  <NumberEntry title="mass" unit="kg" value={train.load.mass} take={(mass) => setLoad({ mass: mass! })} />
  <NumberEntry
    title="balanced by"
    unit="kg"
    value={train.load.counterweight}
    take={(counterweight) => setLoad({ counterweight: counterweight! })}
  />
  <NumberEntry
    title="incline, 90 lifts"
    unit="°"
    value={train.load.incline}
    take={(incline) => setLoad({ incline: incline! })}
  />
  <NumberEntry
    title="coefficient of friction"
    value={train.load.friction}
    take={(friction) => setLoad({ friction: friction! })}
  />
{/if}
<NumberEntry
  title="what turns with the shaft"
  unit="kg·cm²"
  value={train.load.inertia}
  take={(inertia) => setLoad({ inertia: inertia! })}
/>
<NumberEntry
  title="against the move"
  unit={unit === 'mm' ? 'N' : 'N·m'}
  value={train.load.resistance}
  take={(resistance) => setLoad({ resistance: resistance! })}
/>
<NumberEntry
  title="efficiency, 0 to 1"
  value={train.load.efficiency}
  take={(efficiency) => setLoad({ efficiency: efficiency! })}
/>
