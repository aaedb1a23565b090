<script lang="ts">
  import { stepsLeft } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { CutSeries } from '@fadenkreuz/field/agent-api';
  import { clockText } from '$lib/bench/benchTexts.js';
  import { outcomeTitles } from './outcomeTitles.js';

  /** Writes that ended with the agent: what is in the devices, what is not, what nobody knows; and their rest. */
  const desk = useDesk();
  const cut = $derived((desk.bench?.cutWrites ?? []).filter(({ cell }) => cell === desk.cell.id));

  const deviceOf = (id: string) => desk.cell.devices.find((d) => d.id === id);
  const namesOf = ({ device: id, parameter }: CutSeries['lines'][number]) => {
    const device = deviceOf(id);
    const found = device?.description.parameters.find((p) => p.id === parameter);
    return `${device?.name ?? id}: ${found?.name ?? parameter}`;
  };
  const missing = ({ outcome }: CutSeries['lines'][number]) =>
    outcome === 'unknown' || outcome === 'not tried';
  async function complete({ id, lines }: CutSeries) {
    for (const device of new Set(lines.map((line) => line.device))) {
      const steps = stepsLeft(lines.filter((line) => line.device === device));
      if (steps.length > 0 && (await desk.parameters.write(device, steps)) === undefined) return;
    }
    await desk.parameters.forgetCut(id);
  }
</script>

{#each cut as series (series.id)}
  {@const known = series.lines.every((line) => deviceOf(line.device))}
  <section class="mb-3 border-l-[3px] border-error pl-3" aria-label="writes that were cut off">
    <p>
      <strong class="text-error">▲ A series of writes was cut off</strong>
      at <span class="font-mono">{clockText(series.begun)}</span>, with the agent that sent it.
    </p>
    <ul class="mt-1 max-h-48 overflow-y-auto text-xs">
      {#each series.lines as line, i (i)}
        <li class="flex justify-between gap-3 border-b border-base-300 py-0.5">
          <span class="min-w-0 wrap-anywhere">{namesOf(line)}</span>
          <span class={['shrink-0', missing(line) && 'font-semibold text-error']}
            >{outcomeTitles[line.outcome]}</span
          >
        </li>
      {/each}
    </ul>
    <div class="mt-1 flex gap-1">
      <button
        class="btn btn-sm"
        disabled={!desk.armed || !known || !series.lines.some(missing)}
        title={desk.armed ? undefined : 'Writes to the device: start the bench and arm first.'}
        onclick={() => complete(series)}>Write what is missing</button
      >
      <button class="btn btn-ghost btn-sm" onclick={() => desk.parameters.forgetCut(series.id)}
        >Taken note</button
      >
    </div>
  </section>
{/each}
