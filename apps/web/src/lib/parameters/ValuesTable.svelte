<script lang="ts">
  import type { ComparedParameter, Shown, Source } from '@fadenkreuz/core';
  import ArrowLeft from '@lucide/svelte/icons/arrow-left';
  import ArrowRight from '@lucide/svelte/icons/arrow-right';
  import InPlace from '$lib/controls/InPlace.svelte';
  import type { LongColumn } from '$lib/controls/longColumn.js';
  import LongTable from '$lib/controls/LongTable.svelte';
  import type { KnownValue } from '$lib/api/parameters.js';
  import type { Counts } from './counting.js';

  interface Props {
    rows: readonly ComparedParameter[];
    known: (parameter: string) => KnownValue | undefined;
    /** What the fourth column compares with; empty: nothing. */
    otherTitle: string;
    counts: ReadonlyMap<string, Counts>;
    oncount: (parameter: string, counts: Counts) => void;
    /** The same for all differences under a heading. */
    oncountgroup: (group: string, counts: Counts) => void;
    onplan: (parameter: string, typed: string) => boolean;
    chosen: string | undefined;
    onchoose: (id: string) => void;
    wrong: ReadonlySet<string>;
  }
  /** The values of parameters side by side; where the plan and the device differ, an arrow says which side counts. */
  let { rows, known, otherTitle, counts, oncount, oncountgroup, onplan, chosen, onchoose, wrong }: Props =
    $props();

  const columns: LongColumn<ComparedParameter>[] = $derived([
    { id: 'code', title: 'code', sort: (r) => r.parameter.code },
    { id: 'name', title: 'name', sort: (r) => r.parameter.name },
    { id: 'planned', title: 'planned', class: 'text-right', sort: (r) => sortOf(r.values.planned) },
    { id: 'counts', title: '', class: 'w-16' },
    { id: 'device', title: 'in the device', class: 'text-right', sort: (r) => sortOf(r.values.device) },
    { id: 'default', title: 'default', class: 'text-right' },
    ...(otherTitle ? [{ id: 'other', title: otherTitle, class: 'text-right' }] : []),
  ]);
  const sortOf = (shown: Shown | undefined) => (shown && 'text' in shown ? shown.number : -Infinity);
  const textOf = (row: ComparedParameter, source: Source) => {
    const shown = row.values[source];
    if (!shown) return '';
    return 'text' in shown ? shown.text : shown.problem.says;
  };
  const hexOf = (row: ComparedParameter, source: Source) => {
    const shown = row.values[source];
    return shown && 'hex' in shown ? shown.hex : undefined;
  };
  /** Of the plan and the device. */
  const apart = (row: ComparedParameter) => {
    const [planned, device] = [hexOf(row, 'planned'), hexOf(row, 'device')];
    return planned !== undefined && device !== undefined && planned !== device;
  };

  /** How many under each heading differ, where several do. */
  const differing = $derived.by(() => {
    const found: Record<string, number> = {};
    for (const row of rows)
      if (apart(row)) found[row.parameter.group] = (found[row.parameter.group] ?? 0) + 1;
    return new Map(Object.entries(found).filter(([, count]) => count > 1));
  });

  function step(event: KeyboardEvent, row: ComparedParameter) {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const next = by === undefined ? undefined : rows[rows.indexOf(row) + by];
    if (!next) return;
    event.preventDefault();
    onchoose(next.parameter.id);
    document.getElementById(`value-${next.parameter.id}`)?.focus();
  }
</script>

{#snippet sides(label: string, way: Counts | undefined, take: (side: Counts) => void, of: string)}
  <span class="notch" role="group" aria-label={label}>
    <button
      aria-label="{of}the device's counts: into the plan"
      title="{of}the device's value counts: into the plan"
      aria-pressed={way === 'device'}
      onclick={() => take('device')}><ArrowLeft size={14} aria-hidden="true" /></button
    >
    <button
      aria-label="{of}the planned one counts: to the device"
      title="{of}the planned value counts: to the device"
      aria-pressed={way === 'planned'}
      onclick={() => take('planned')}><ArrowRight size={14} aria-hidden="true" /></button
    >
  </span>
{/snippet}

<LongTable
  label="values of parameters"
  {rows}
  {columns}
  key={(r) => r.parameter.id}
  group={(r) => r.parameter.group}
  empty="No parameter is shown."
  rowClass={(r) => (chosen === r.parameter.id ? 'bg-base-100' : 'hover:bg-base-100/60')}
  selected={(r) => chosen === r.parameter.id}
  onchoose={(r) => onchoose(r.parameter.id)}
>
  {#snippet headingEnd(group)}
    {#if differing.get(group)}
      {@render sides(
        `which values of ${group} count`,
        undefined,
        (side) => oncountgroup(group, side),
        `all ${differing.get(group)} of ${group}: `,
      )}
    {/if}
  {/snippet}
  {#snippet cells(row)}
    {@const { parameter } = row}
    {@const value = known(parameter.id)}
    {@const way = counts.get(parameter.id)}
    <td class="font-mono whitespace-nowrap">{parameter.code}</td>
    <td class="max-w-56">
      <button
        id="value-{parameter.id}"
        class="cursor-pointer text-left font-semibold wrap-anywhere"
        onkeydown={(event) => step(event, row)}>{parameter.name}</button
      >
      {#if wrong.has(parameter.id)}<span class="text-warning" title="has a finding">▲</span>{/if}
    </td>
    <td class="max-w-44 text-right font-mono">
      {#if parameter.access === 'read'}
        <span class="text-xs text-faint">read only</span>
      {:else}
        <InPlace
          class="w-full text-right font-mono"
          label="planned {parameter.name}"
          placeholder="–"
          value={textOf(row, 'planned')}
          take={(typed) => onplan(parameter.id, typed)}
        />
      {/if}
    </td>
    <td class="text-center whitespace-nowrap">
      {#if apart(row)}
        {@render sides(
          `which value of ${parameter.name} counts`,
          way,
          (side) => oncount(parameter.id, side),
          '',
        )}
      {:else if hexOf(row, 'planned') !== undefined && hexOf(row, 'device') !== undefined}
        <span class="text-faint" title="the same">=</span>
      {/if}
    </td>
    <td class="max-w-44 text-right font-mono wrap-anywhere" data-device-value={parameter.name}>
      {#if value?.problem && value.outcome !== 'changed'}
        <span class="text-xs text-error" title={`${value.problem.says} ${value.problem.cure}`}
          >{value.outcome === 'unknown' ? 'not known' : 'refused'}</span
        >
      {:else}{textOf(row, 'device')}{/if}
    </td>
    <td class="max-w-36 text-right font-mono wrap-anywhere text-faint">{textOf(row, 'default')}</td>
    {#if otherTitle}
      <td
        class={[
          'max-w-36 text-right font-mono wrap-anywhere',
          hexOf(row, 'other') !== undefined &&
            hexOf(row, 'device') !== undefined &&
            hexOf(row, 'other') !== hexOf(row, 'device') &&
            'font-semibold underline decoration-dotted',
        ]}>{textOf(row, 'other')}</td
      >
    {/if}
  {/snippet}
</LongTable>

<style>
  .notch {
    display: inline-flex;
    border: 1px solid var(--color-base-content);
    border-radius: var(--radius-field);
    overflow: hidden;
  }
  .notch button {
    min-width: 24px;
    min-height: 24px;
    display: grid;
    place-items: center;
    cursor: pointer;
  }
  .notch button[aria-pressed='true'] {
    background: var(--color-primary);
    color: var(--color-primary-content);
  }
</style>
