<script lang="ts">
  import type { Device, Outcome } from '@fadenkreuz/core';
  import type { SeriesLine, SeriesState } from '$lib/api/parameters.js';
  import { outcomeTitles } from './outcomeTitles.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** How the last series of reads or writes went, parameter by parameter where something is to be known. */
  let { series, device }: { series: SeriesState; device: Device } = $props();
  const desk = useDesk();
  let lines = $state.raw<SeriesLine[]>([]);
  $effect(() => {
    const { id, ended, does } = series;
    lines = [];
    if (ended && does === 'write') void desk.parameters.linesOf(id).then((all) => (lines = all));
  });

  const done = $derived(Object.values(series.counts).reduce((sum, n) => sum + n, 0));
  const nameOf = (id: string) => device.description.parameters.find((p) => p.id === id)?.name ?? id;
  const counted = $derived(Object.entries(series.counts).filter(([, n]) => n > 0) as [Outcome, number][]);
</script>

<p>
  {series.ended ? (series.cancelled ? 'Cancelled' : 'Ended') : series.does === 'read' ? 'Reads' : 'Writes'}:
  <span class="font-mono">{done} of {series.total}</span>
</p>
{#if !series.ended}
  <progress class="progress w-full" value={done} max={series.total} aria-label="progress"></progress>
  <button class="btn btn-sm" onclick={() => desk.parameters.cancel(series.id)}>Cancel</button>
{/if}
<ul class="text-xs">
  {#each counted as [outcome, n] (outcome)}<li>
      <span class="font-mono">{n}</span>
      {outcomeTitles[outcome]}
    </li>{/each}
</ul>
{#if lines.length > 0}
  <ol class="mt-2 text-xs" aria-label="what was written">
    {#each lines as { parameter, outcome, wrote, bytes, problem }, i (i)}
      <li class="border-t border-base-300 py-1">
        <span class={['font-semibold', outcome !== 'written' && 'text-error']}>{nameOf(parameter)}</span>:
        {outcomeTitles[outcome]}{#if outcome === 'changed'}
          ({wrote} → {bytes}){/if}
        {#if problem}<span class="text-faint">{problem.says} {problem.cure}</span>{/if}
      </li>
    {/each}
  </ol>
{/if}
