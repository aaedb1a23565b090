<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { axisUnit, type Device, type DriveTrain } from '@fadenkreuz/core';
  import NumberEntry from '../NumberEntry.svelte';
  import { editTrain } from '../trainEdits.js';

  /** Limits of all moves, and where braking energy goes. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);
  const unit = $derived(axisUnit(train.output));
  const setSupply = (part: Partial<DriveTrain['supply']>) => set({ supply: { ...train.supply, ...part } });
</script>

<NumberEntry
  title="quick stop"
  unit="{unit}/s²"
  optional
  value={train.quickStop}
  take={(quickStop) => set({ quickStop })}
/>
<NumberEntry
  title="following error, at most"
  {unit}
  optional
  value={train.followingError}
  take={(followingError) => set({ followingError })}
/>
<NumberEntry
  title="fastest by hand"
  unit="{unit}/s"
  optional
  value={train.manualSpeed}
  take={(manualSpeed) => set({ manualSpeed })}
/>
<h3 class="mt-3 font-semibold">Braking</h3>
<NumberEntry title="DC bus" unit="V" value={train.supply.bus} take={(bus) => setSupply({ bus: bus! })} />
<NumberEntry
  title="chopper begins at"
  unit="V"
  value={train.supply.chopper}
  take={(chopper) => setSupply({ chopper: chopper! })}
/>
<NumberEntry
  title="capacitance"
  unit="µF"
  value={train.supply.capacitance}
  take={(capacitance) => setSupply({ capacitance: capacitance! })}
/>
<NumberEntry
  title="braking resistor"
  unit="Ω"
  optional
  value={train.supply.resistance}
  take={(resistance) => setSupply({ resistance })}
/>
<NumberEntry
  title="its power"
  unit="W"
  optional
  value={train.supply.power}
  take={(power) => setSupply({ power })}
/>
