<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    bytesOfHex,
    nameplateParameters,
    ParameterCodec,
    withNameplate,
    type Device,
    type DriveTrain,
  } from '@fadenkreuz/core';
  import { onMount } from 'svelte';
  import { editTrain } from './trainEdits.js';

  /** The nameplate that the drive keeps of its motor: read, and locked until it is uncoupled. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  onMount(() => desk.parameters.follow());

  const asked = $derived(nameplateParameters(device.description.parameters));
  const coupled = $derived(train.motor?.from === 'nameplate');
  let reads = $state(false);

  async function read() {
    reads = true;
    const series = await desk.parameters.read(
      device.id,
      asked.map(({ id }) => id),
    );
    // What is read comes in with the news of the parameters.
    const over = () => desk.parameters.series.find(({ id }) => id === series)?.ended;
    for (let waited = 0; series !== undefined && !over() && waited < 10_000; waited += 100)
      await new Promise((resolve) => setTimeout(resolve, 100));
    reads = false;
    if (series !== undefined) take();
  }
  function take() {
    const read = desk.parameters.readOf(device.id);
    const value = (id: string) => {
      const parameter = asked.find((p) => p.id === id);
      const hex = read.get(id);
      if (!parameter || !hex) return undefined;
      const { number } = new ParameterCodec(parameter).read(bytesOfHex(hex));
      return Number.isNaN(number) ? undefined : number;
    };
    if (!asked.some(({ id }) => value(id) !== undefined)) {
      desk.note = { says: `${device.name} did not say its nameplate.`, cure: 'Look at its parameters.' };
      return;
    }
    editTrain(desk, device, withNameplate(train, device.description.parameters, value));
  }
  function uncouple() {
    if (train.motor) editTrain(desk, device, { motor: { ...train.motor, from: 'typed' } });
  }
</script>

{#if coupled}
  <p class="mt-1 text-sm">
    Read from the nameplate that the drive keeps: <strong>locked</strong>.
    <button class="btn ml-1 btn-xs" onclick={uncouple}>Uncouple</button>
  </p>
{:else if asked.length > 0}
  <button
    class="btn mt-1 btn-sm"
    disabled={!desk.running || reads}
    title={desk.running ? `${asked.length} parameters` : 'Start the bench first'}
    onclick={read}>{reads ? 'Reading …' : 'Read the nameplate'}</button
  >
{:else}
  <p class="mt-1 text-xs text-faint">
    No parameter of this device has a role of a nameplate: type it from the motor.
  </p>
{/if}
