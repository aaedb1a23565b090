<script lang="ts">
  import { askedFor, startUpSteps, type Device, type DriveTrain, type StartUpStep } from '@fadenkreuz/core';
  import BrakeStep from './steps/BrakeStep.svelte';
  import CouplingStep from './steps/CouplingStep.svelte';
  import EncoderStep from './steps/EncoderStep.svelte';
  import GearStep from './steps/GearStep.svelte';
  import LimitsStep from './steps/LimitsStep.svelte';
  import LoadStep from './steps/LoadStep.svelte';
  import MotorStep from './steps/MotorStep.svelte';
  import OutputStep from './steps/OutputStep.svelte';

  interface Props {
    device: Device;
    train: DriveTrain;
    step: StartUpStep;
  }
  /** One part of a drive train, in the lens. */
  let { device, train, step }: Props = $props();

  const forms = {
    motor: MotorStep,
    brake: BrakeStep,
    encoder: EncoderStep,
    gear: GearStep,
    coupling: CouplingStep,
    output: OutputStep,
    load: LoadStep,
    moves: LimitsStep,
  } as const satisfies Record<StartUpStep, unknown>;
  const Form = $derived(forms[step]);
  const title = $derived(startUpSteps.find(({ id }) => id === step)!.title);
  const asked = $derived(askedFor(train, step));
</script>

<h2 class="text-base font-semibold">{title}</h2>
{#if asked.length > 0}<p class="text-sm text-error">▲ Missing: {asked.join(', ')}.</p>{/if}
<Form {device} {train} />
