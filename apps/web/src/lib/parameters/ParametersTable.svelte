<script lang="ts">
  import { placeText, type Parameter } from '@fadenkreuz/core';
  import { rangeText } from './parameterEdits.js';
  import { typeText } from '$lib/sight/fieldTexts.js';

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

  function step(event: KeyboardEvent, at: number) {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const next = by === undefined ? undefined : parameters[at + by];
    if (!next) return;
    event.preventDefault();
    onchoose?.(next.id);
    document.getElementById(`parameter-${next.id}`)?.focus();
  }
</script>

<table class="w-full border-collapse text-[13px]" aria-label="parameters">
  <thead class="sticky top-0 bg-base-200">
    <tr class="border-b border-base-content/60 text-left text-xs text-faint">
      <th class="py-1.5 pl-2 font-medium">code</th>
      <th class="font-medium">name</th>
      <th class="font-medium">place</th>
      <th class="font-medium">type</th>
      <th class="font-medium">range</th>
      <th class="font-medium">access</th>
    </tr>
  </thead>
  <tbody>
    {#each parameters as parameter, at (parameter.id)}
      {#if parameter.group && parameter.group !== parameters[at - 1]?.group}
        <tr><th colspan="6" class="pt-2 pl-2 text-left text-xs font-semibold">{parameter.group}</th></tr>
      {/if}
      <tr
        class={[
          'border-b border-base-300',
          chosen === parameter.id ? 'bg-base-100' : onchoose && 'hover:bg-base-100/60',
        ]}
        aria-selected={onchoose && chosen === parameter.id}
        onclick={() => onchoose?.(parameter.id)}
      >
        <td class="py-1 pl-2 font-mono whitespace-nowrap">{parameter.code}</td>
        <td class="max-w-56">
          {#if onchoose}
            <button
              id="parameter-{parameter.id}"
              class="cursor-pointer text-left font-semibold"
              onkeydown={(event) => step(event, at)}>{parameter.name}</button
            >
          {:else}<span class="font-semibold">{parameter.name}</span>{/if}
          {#if wrong.has(parameter.id)}<span class="text-warning" title="has a finding">▲</span>{/if}
        </td>
        <td class="pr-2 font-mono text-xs">{placeText(parameter.place) || 'not known'}</td>
        <td class="pr-2 font-mono text-xs whitespace-nowrap"
          >{typeText({ ...parameter, unit: '', scale: null })}</td
        >
        <td class="pr-2 font-mono text-xs">{rangeText(parameter)}</td>
        <td class="text-xs whitespace-nowrap">{accessTexts[parameter.access]}</td>
      </tr>
    {:else}
      <tr><td colspan="6" class="p-2 text-faint">No parameters yet.</td></tr>
    {/each}
  </tbody>
</table>
