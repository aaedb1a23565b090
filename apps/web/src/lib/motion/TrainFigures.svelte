<script lang="ts">
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import {
    brakingOf,
    controlModeOf,
    flawFinding,
    linkBudget,
    ratioText,
    scalingOf,
    stoppingOf,
    type Device,
    type DriveTrain,
    type TrainFigures,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { figure } from './trainEdits.js';

  interface Props {
    device: Device;
    train: DriveTrain;
    figures: TrainFigures | undefined;
  }
  /** What follows from a train: control mode, units, inertia, torque, braking, stopping; and what is wrong with it. */
  let { device, train, figures }: Props = $props();
  const desk = useDesk();

  const scaling = $derived(scalingOf(train));
  const mode = $derived(controlModeOf(train));
  const braking = $derived(figures && brakingOf(figures.cycle, train));
  const fastest = $derived(Math.max(0, ...train.moves.map((m) => m.velocity)));
  const noticed = $derived(device.links[0] && linkBudget(device.links[0], desk.cell.controller.cycle / 1000));
  const stopping = $derived(
    noticed && train.quickStop && fastest > 0
      ? stoppingOf(fastest, train.quickStop, noticed.lossNoticed)
      : undefined,
  );

  type Row = readonly [title: string, value: string, more?: string | undefined];
  const rows = $derived.by((): Row[] => {
    const out: Row[] = [];
    if (mode) out.push(['control', mode.title, mode.reason]);
    if (scaling) {
      const { unit, perIncrement, perRevolution, range } = scaling;
      if (train.encoder)
        out.push(['an increment', `${figure(perIncrement.valueOf(), unit)}`, ratioText(perIncrement)]);
      out.push([
        'a revolution of the motor',
        figure(perRevolution.valueOf(), unit),
        ratioText(perRevolution),
      ]);
      if (train.encoder) out.push(['32 bits reach', `± ${figure(range.greatest.valueOf(), unit)}`]);
    }
    if (!figures) return out;
    const { loads, cycle, ratio, ratedTorque } = figures;
    const inertia = (loads.motorInertia + loads.shaftInertia + loads.massInertia) * 1e4;
    out.push(
      ['moment of inertia at the motor', figure(inertia, 'kg·cm²')],
      ['load to motor', `${figure(ratio)} : 1`],
    );
    if (train.moves.length === 0) return out;
    out.push(
      ['cycle', figure(cycle.lasts, 's')],
      ['torque, at most', figure(cycle.peakTorque, 'N·m'), of(cycle.peakTorque, train.motor?.peakTorque)],
      ['torque, rms', figure(cycle.rmsTorque, 'N·m'), of(cycle.rmsTorque, ratedTorque)],
      ['speed, at most', figure(cycle.peakSpeed, 'rpm'), of(cycle.peakSpeed, train.motor?.maximumSpeed)],
      ['power, at most', figure(cycle.peakPower, 'W')],
      ['comes back in a cycle', figure(cycle.brakingEnergy, 'J')],
    );
    if (braking && braking.energy > 0)
      out.push([
        'braking resistor',
        `${figure(braking.greatestResistance ?? 0, 'Ω')} at most, ${figure(braking.power, 'W')}`,
        `${figure(braking.peak, 'W')} peak`,
      ]);
    if (stopping && noticed)
      out.push([
        'cable pulled at the fastest move',
        `${figure(stopping.distance, scaling?.unit)} in ${figure(stopping.seconds, 's')}`,
        `noticed after ${figure(noticed.lossNoticed, 'ms')}`,
      ]);
    return out;
  });
  const of = (is: number, may: number | null | undefined) =>
    may ? `${Math.round((100 * is) / may)} % of ${figure(may)}` : undefined;
</script>

<dl class="grid grid-cols-[repeat(auto-fit,minmax(250px,1fr))] gap-x-6">
  {#each rows as [title, value, more] (title)}
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
