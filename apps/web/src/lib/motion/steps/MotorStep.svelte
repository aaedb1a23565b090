<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    figureText as figure,
    blankMotor,
    motorLibrary,
    Problem,
    ratedTorqueOf,
    readMotors,
    type Device,
    type DriveTrain,
    type Motor,
  } from '@fadenkreuz/core';
  import NameplateReader from '../NameplateReader.svelte';
  import NumberEntry from '../NumberEntry.svelte';
  import { editTrain } from '../trainEdits.js';

  /** The motor: read from the drive, of the library, or typed. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);

  const motor = $derived(train.motor);
  const locked = $derived(motor?.from === 'nameplate');
  /** What the nameplate did not say may be entered. */
  const fixed = (key: keyof Motor) => locked && motor?.[key] !== null;
  const setMotor = (part: Partial<Motor>) => set({ motor: { ...(motor ?? blankMotor), ...part } });
  let own = $state<readonly Motor[]>([]);
  const library = $derived([...own, ...motorLibrary]);

  async function load(files: FileList | null) {
    const [file] = files ?? [];
    if (!file) return;
    try {
      own = readMotors(await file.text());
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      const { says, cure } = error.report();
      desk.note = { says: `${file.name}: ${says}`, cure };
    }
  }

  const motorEntries = [
    ['ratedPower', 'rated power', 'W'],
    ['ratedSpeed', 'rated speed', 'rpm'],
    ['ratedTorque', 'rated torque', 'N·m'],
    ['peakTorque', 'peak torque', 'N·m'],
    ['maximumSpeed', 'maximum speed', 'rpm'],
    ['ratedCurrent', 'rated current', 'A'],
    ['ratedVoltage', 'rated voltage', 'V'],
    ['ratedFrequency', 'rated frequency', 'Hz'],
    ['poles', 'poles', ''],
    ['inertia', 'moment of inertia', 'kg·cm²'],
    ['efficiency', 'efficiency, 0 to 1', ''],
  ] as const;
</script>

<NameplateReader {device} {train} />
{#if !locked}
  <label class="lens-row"
    >from the library <select
      class="inplace w-36"
      aria-label="motor of the library"
      value=""
      onchange={(event) => {
        const chosen = library.find((m) => m.model === event.currentTarget.value);
        if (chosen) set({ motor: chosen });
      }}
    >
      <option value="">choose</option>
      {#each library as { model } (model)}<option value={model}>{model}</option>{/each}
    </select></label
  >
  <label class="lens-row"
    >table of motors (CSV) <input
      type="file"
      accept=".csv,text/csv"
      class="file-input w-36 file-input-xs"
      onchange={(event) => load(event.currentTarget.files)}
    /></label
  >
{/if}
<LensEntry
  title="model"
  class="w-32 font-mono"
  value={motor?.model ?? ''}
  take={(model) => setMotor({ model: model.trim() })}
/>
<label class="lens-row"
  >type <select
    class="inplace w-36"
    aria-label="type of the motor"
    disabled={locked}
    value={motor?.type ?? 'synchronous'}
    onchange={(event) => setMotor({ type: event.currentTarget.value as Motor['type'] })}
  >
    <option value="synchronous">synchronous</option><option value="asynchronous">asynchronous</option>
  </select></label
>
{#each motorEntries as [key, name, unitOf] (key)}
  <NumberEntry
    title={name}
    unit={unitOf}
    optional
    value={motor?.[key] ?? null}
    disabled={fixed(key)}
    take={(value) => setMotor({ [key]: value })}
  />
{/each}
{#if motor && motor.ratedTorque === null && ratedTorqueOf(motor)}
  <p class="text-xs text-faint">From power and speed: {figure(ratedTorqueOf(motor)!, 'N·m')}.</p>
{/if}
