<script lang="ts">
  import { placeText, type Parameter } from '@fadenkreuz/core';
  import type { LongColumn } from '$lib/controls/longColumn.js';
  import LongTable from '$lib/controls/LongTable.svelte';
  import { typeText } from '$lib/sight/fieldTexts.js';
  import { rangeText } from './parameterEdits.js';

  interface Props {
    parameters: readonly Parameter[];
    /** Ids of those with a finding. */
    wrong?: ReadonlySet<string>;
    chosen?: string | undefined;
    onchoose?: (id: string) => void;
  }
  /** Parameters as rows under the headings of the manual. */
  let { parameters, wrong = new Set(), chosen, onchoose }: Props = $props();

  const accessTexts: Record<Parameter['access'], string> = {
    'read-write': '',
    read: 'read only',
    write: 'write only',
  };
  const typeOf = (parameter: Parameter) => typeText({ ...parameter, unit: '', scale: null });
  const columns: LongColumn<Parameter>[] = [
    { id: 'code', title: 'code', sort: (p) => p.code },
    { id: 'name', title: 'name', sort: (p) => p.name },
    { id: 'place', title: 'place', sort: (p) => placeText(p.place) },
    { id: 'type', title: 'type', sort: typeOf },
    { id: 'range', title: 'range' },
    { id: 'access', title: 'access', sort: (p) => accessTexts[p.access] },
  ];

  function step(event: KeyboardEvent, parameter: Parameter) {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const next = by === undefined ? undefined : parameters[parameters.indexOf(parameter) + by];
    if (!next) return;
    event.preventDefault();
    onchoose?.(next.id);
    document.getElementById(`parameter-${next.id}`)?.focus();
  }
</script>

<LongTable
  label="parameters"
  rows={parameters}
  {columns}
  key={(p) => p.id}
  group={(p) => p.group}
  empty="No parameters yet."
  rowClass={(p) => (chosen === p.id ? 'bg-base-100' : onchoose ? 'hover:bg-base-100/60' : '')}
  {...onchoose ? { selected: (p: Parameter) => chosen === p.id } : {}}
  onchoose={onchoose && ((p) => onchoose(p.id))}
>
  {#snippet cells(parameter)}
    <td class="font-mono whitespace-nowrap">{parameter.code}</td>
    <td class="max-w-56">
      {#if onchoose}
        <button
          id="parameter-{parameter.id}"
          class="cursor-pointer text-left font-semibold"
          onkeydown={(event) => step(event, parameter)}>{parameter.name}</button
        >
      {:else}<span class="font-semibold">{parameter.name}</span>{/if}
      {#if wrong.has(parameter.id)}<span class="text-warning" title="has a finding">▲</span>{/if}
    </td>
    <td class="font-mono text-xs">{placeText(parameter.place) || 'not known'}</td>
    <td class="font-mono text-xs whitespace-nowrap">{typeOf(parameter)}</td>
    <td class="font-mono text-xs">{rangeText(parameter)}</td>
    <td class="text-xs whitespace-nowrap">{accessTexts[parameter.access]}</td>
  {/snippet}
</LongTable>
