<script lang="ts">
  import {
    figureText as figure,
    askedFor,
    startUpSteps,
    type DriveTrain,
    type StartUpStep,
  } from '@fadenkreuz/core';

  interface Props {
    train: DriveTrain;
    chosen: StartUpStep;
    onchoose: (step: StartUpStep) => void;
  }
  /**
   * The drive train from motor to load, in the order in which it is started up: what each part is, what it asks for.
   */
  let { train, chosen, onchoose }: Props = $props();

  function brief(step: StartUpStep): string {
    const { motor, brake, encoder, gear, coupling, output, load, moves } = train;
    switch (step) {
      case 'motor':
        return motor ? motor.model || motor.type : '';
      case 'brake':
        return brake ? figure(brake.torque, 'N·m') : 'none';
      case 'encoder':
        return encoder ? `${encoder.increments} inc` : 'none';
      case 'gear':
        return `${gear.motor} : ${gear.shaft}`;
      case 'coupling':
        return coupling ? figure(coupling.inertia, 'kg·cm²') : 'none';
      case 'output':
        return output ? output.is : '';
      case 'load':
        return load.mass > 0 ? figure(load.mass, 'kg') : figure(load.inertia, 'kg·cm²');
      case 'moves':
        return `${moves.length}`;
    }
  }
</script>

<ol class="flex items-stretch overflow-x-auto" aria-label="drive train">
  {#each startUpSteps as { id, title }, i (id)}
    {@const asked = askedFor(train, id)}
    <li class="flex min-w-0 flex-1 items-center">
      {#if i > 0}<span class="h-[2px] w-2 shrink-0 bg-base-content" aria-hidden="true"></span>{/if}
      <button
        class={[
          'min-w-0 grow rounded-box border px-2 py-1 text-left',
          id === chosen ? 'border-base-content bg-base-100' : 'border-base-300',
        ]}
        aria-pressed={id === chosen}
        onclick={() => onchoose(id)}
      >
        <span class="block text-sm font-semibold">{title}</span>
        <span class="block truncate font-mono text-xs" title={brief(id)}>{brief(id) || '–'}</span>
        <span class={['block truncate text-xs', asked.length > 0 ? 'text-error' : 'text-success']}>
          {asked.length > 0 ? `▲ ${asked[0]}` : '✓'}
        </span>
      </button>
    </li>
  {/each}
</ol>
