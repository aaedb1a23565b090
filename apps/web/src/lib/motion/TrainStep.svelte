<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    askedFor,
    blankMotor,
    gearLibrary,
    motorLibrary,
    Problem,
    ratedTorqueOf,
    readMotors,
    startUpSteps,
    type Device,
    type DriveTrain,
    type Motor,
    type MotionOutput,
    type StartUpStep,
  } from '@fadenkreuz/core';
  import NameplateReader from './NameplateReader.svelte';
  import NumberEntry from './NumberEntry.svelte';
  import { editTrain, figure } from './trainEdits.js';

  interface Props {
    device: Device;
    train: DriveTrain;
    step: StartUpStep;
  }
  /** One part of a drive train, in the lens. */
  let { device, train, step }: Props = $props();
  const desk = useDesk();

  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);
  const title = $derived(startUpSteps.find(({ id }) => id === step)!.title);
  const asked = $derived(askedFor(train, step));

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
  ] as const;

  const outputs = {
    screw: { title: 'screw', sizes: { lead: 'lead, mm' } },
    belt: { title: 'toothed belt', sizes: { teeth: 'teeth', pitch: 'pitch, mm' } },
    rack: { title: 'rack and pinion', sizes: { teeth: 'teeth', module: 'module, mm' } },
    pulley: { title: 'pulley', sizes: { diameter: 'diameter, mm' } },
    drum: { title: 'drum', sizes: { diameter: 'diameter, mm' } },
    table: { title: 'rotary table', sizes: {} },
  } as const;
  const usual = { lead: '10', teeth: '20', pitch: '5', module: '2', diameter: '100' };
  function turnTo(is: string) {
    const { sizes } = outputs[is as keyof typeof outputs];
    const own = Object.fromEntries(Object.keys(sizes).map((key) => [key, usual[key as keyof typeof usual]]));
    set({ output: { is, ...own } as MotionOutput });
  }
  const setOutput = (key: string, text: string) =>
    set({ output: { ...train.output, [key]: text.trim().replace(',', '.') } as MotionOutput });
  const setGear = (part: Partial<DriveTrain['gear']>) => set({ gear: { ...train.gear, ...part } });
  const setLoad = (part: Partial<DriveTrain['load']>) => set({ load: { ...train.load, ...part } });
  const setSupply = (part: Partial<DriveTrain['supply']>) => set({ supply: { ...train.supply, ...part } });
  const ratioText = (text: string) => text.trim().replace(',', '.');
  const unit = $derived(train.output?.is === 'table' ? '°' : 'mm');
</script>

<h2 class="text-base font-semibold">{title}</h2>
{#if asked.length > 0}<p class="text-sm text-error">▲ Missing: {asked.join(', ')}.</p>{/if}

{#if step === 'motor'}
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
{:else if step === 'brake'}
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
{:else if step === 'encoder'}
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
            : { type: 'incremental', turns: 1, inertia: 0, ...train.encoder, increments: ratioText(text) },
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
{:else if step === 'gear'}
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
    take={(text) => setGear({ motor: ratioText(text) })}
  />
  <LensEntry
    title="for shaft revolutions"
    class="w-20 font-mono"
    value={train.gear.shaft}
    take={(text) => setGear({ shaft: ratioText(text) })}
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
{:else if step === 'coupling'}
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
{:else if step === 'output'}
  <label class="lens-row"
    >the shaft drives <select
      class="inplace w-36"
      aria-label="what the shaft drives"
      value={train.output?.is ?? ''}
      onchange={(event) => turnTo(event.currentTarget.value)}
    >
      <option value="" disabled>choose</option>
      {#each Object.entries(outputs) as [key, { title: name }] (key)}<option value={key}>{name}</option
        >{/each}
    </select></label
  >
  {#if train.output}
    {#each Object.entries(outputs[train.output.is].sizes) as [key, name] (key)}
      <LensEntry
        title={name}
        class="w-20 font-mono"
        value={(train.output as Record<string, string>)[key] ?? ''}
        take={(text) => setOutput(key, text)}
      />
    {/each}
  {/if}
  <label class="lens-row"
    >counts against the motor <input
      type="checkbox"
      class="checkbox rounded-sm checkbox-xs"
      checked={train.reversed}
      onchange={(event) => set({ reversed: event.currentTarget.checked })}
    /></label
  >
  <LensEntry
    title="begins anew after, {unit}"
    class="w-20 font-mono"
    value={train.modulo ?? ''}
    placeholder="never"
    take={(text) => set({ modulo: text.trim() === '' ? null : ratioText(text) })}
  />
{:else if step === 'load'}
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
{:else}
  <NumberEntry
    title="quick stop"
    unit="{unit}/s²"
    optional
    value={train.quickStop}
    take={(quickStop) => set({ quickStop })}
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
{/if}
