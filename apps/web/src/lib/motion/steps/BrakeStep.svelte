<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { Device, DriveTrain } from '@fadenkreuz/core';
  import NumberEntry from '../NumberEntry.svelte';
  import { editTrain } from '../trainEdits.js';

  /** The brake of a motor. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);
</script>

<NumberEntry
  title="holds"
  unit="N·m"
  optional
  value={train.brake?.torque ?? null}
  take={(torque) =>
    set({ brake: torque === null ? null : { closes: 40, opens: 60, inertia: 0, ...train.brake, torque } })}
/>
{#if train.brake}
  {@const brake = train.brake}
  <NumberEntry
    title="closes in"
    unit="ms"
    value={brake.closes}
    take={(closes) => set({ brake: { ...brake, closes: closes! } })}
  />
  <NumberEntry
    title="opens in"
    unit="ms"
    value={brake.opens}
    take={(opens) => set({ brake: { ...brake, opens: opens! } })}
  />
  <NumberEntry
    title="moment of inertia"
    unit="kg·cm²"
    value={brake.inertia}
    take={(inertia) => set({ brake: { ...brake, inertia: inertia! } })}
  />
{:else}<p class="text-xs text-faint">No brake. Enter what it holds where there is one.</p>{/if}
