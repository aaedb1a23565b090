<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { Device, DriveTrain } from '@fadenkreuz/core';
  import NumberEntry from '../NumberEntry.svelte';
  import { editTrain } from '../trainEdits.js';

  /** The coupling on the shaft. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);
</script>

<NumberEntry
  title="moment of inertia"
  unit="kg·cm²"
  optional
  value={train.coupling?.inertia ?? null}
  take={(inertia) =>
    set({ coupling: inertia === null ? null : { torque: train.coupling?.torque ?? null, inertia } })}
/>
{#if train.coupling}
  {@const coupling = train.coupling}
  <NumberEntry
    title="carries"
    unit="N·m"
    optional
    value={coupling.torque}
    take={(torque) => set({ coupling: { ...coupling, torque } })}
  />
{/if}
