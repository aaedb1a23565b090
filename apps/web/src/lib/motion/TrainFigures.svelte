<script lang="ts">
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import {
    flawFinding,
    linkBudget,
    trainRows,
    type Device,
    type DriveTrain,
    type TrainFigures,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  interface Props {
    device: Device;
    train: DriveTrain;
    figures: TrainFigures | undefined;
  }
  /** What follows from a train: control mode, units, inertia, torque, braking, stopping; and what is wrong with it. */
  let { device, train, figures }: Props = $props();
  const desk = useDesk();

  const noticed = $derived(
    device.links[0] && linkBudget(device.links[0], desk.cell.controller.cycle / 1000).lossNoticed,
  );
  const rows = $derived(trainRows(train, figures, noticed));
</script>

<dl class="grid grid-cols-[repeat(auto-fit,minmax(250px,1fr))] gap-x-6">
  {#each rows as { title, value, more } (title)}
    <div class="flex items-baseline justify-between gap-2 border-b border-base-300 py-1">
      <dt class="text-sm text-faint">{title}</dt>
      <dd class="min-w-0 text-right font-mono text-sm wrap-anywhere">
        {value}{#if more}<span class="block text-xs text-faint">{more}</span>{/if}
      </dd>
    </div>
  {/each}
</dl>
{#if figures && figures.flaws.length > 0}
  <ul class="mt-2" aria-label="what is wrong with the train">
    {#each figures.flaws as flaw (flaw.id)}
      <li><FindingLine finding={flawFinding(device, flaw)} /></li>
    {/each}
  </ul>
{/if}
