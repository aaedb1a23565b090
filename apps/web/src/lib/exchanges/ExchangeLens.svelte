<script lang="ts">
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import InPlace from '$lib/controls/InPlace.svelte';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import LensSection from '$lib/controls/LensSection.svelte';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { saveText } from '$lib/controls/saveText.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    conditionText,
    functionBlock,
    identifierOf,
    sentencesOf,
    type Exchange,
    type ExchangeVariable,
    type ExchangePlace,
  } from '@fadenkreuz/core';
  import PlaceEntry from './PlaceEntry.svelte';
  import { valueText } from './valueTyped.js';

  /** An exchange as a whole: its name, its variables, what must hold before it, what leaves. */
  let { exchange }: { exchange: Exchange } = $props();
  const desk = useDesk();

  const findings = $derived(desk.findings.filter((f) => f.place.exchange === exchange.id && !f.place.step));
  const set = (part: Partial<Omit<Exchange, 'id'>>) =>
    desk.edit({ edit: 'exchange.set', exchange: exchange.id, set: part });
  const setVariable = (i: number, part: Partial<ExchangeVariable>) =>
    set({ variables: exchange.variables.map((v, k) => (k === i ? { ...v, ...part } : v)) });
  const usual = { bit: false, number: 0, text: '' } as const;
  function given({ type }: ExchangeVariable, text: string): ExchangeVariable['given'] {
    return type === 'text' ? text : type === 'bit' ? text.trim() === '1' : Number(text) || 0;
  }
  function setPrecondition(i: number, place: ExchangePlace) {
    set({
      preconditions: exchange.preconditions.map((p, k) =>
        k === i ? { ...p, condition: { ...p.condition, place } } : p,
      ),
    });
  }
  const code = () => {
    try {
      saveText(`${identifierOf(exchange.name)}.st`, functionBlock(desk.cell, exchange));
    } catch {
      desk.note = {
        says: `${exchange.name} cannot be written as code.`,
        cure: 'One of its steps names what is not there: look at its findings.',
      };
    }
  };
  const words = () =>
    saveText(`${identifierOf(exchange.name)}.txt`, sentencesOf(desk.cell, exchange).join('\n') + '\n');
</script>

<h2 class="text-lg font-semibold">Exchange</h2>
<InPlace
  class="w-full font-semibold"
  wraps
  value={exchange.name}
  label="name of the exchange"
  take={(name) => set({ name })}
/>
<LensEntry title="note" wraps class="w-52" value={exchange.note} take={(note) => set({ note })} />
{#each findings as finding, i (i)}<FindingLine {finding} />{/each}

<LensSection title="Variables">
  {#each exchange.variables as variable, i (i)}
    <div class="border-b border-base-300 py-0.5">
      <div class="flex items-center gap-1">
        <InPlace
          class="min-w-0 grow font-mono"
          value={variable.name}
          label="name of variable {i + 1}"
          take={(name) => setVariable(i, { name: identifierOf(name) })}
        />
        <RemoveButton
          label="remove {variable.name}"
          onclick={() => set({ variables: exchange.variables.filter((_, k) => k !== i) })}
        />
      </div>
      <div class="flex items-center gap-1">
        <select
          class="inplace w-[96px] shrink-0"
          aria-label="type of {variable.name}"
          value={variable.type}
          onchange={(event) => {
            const type = event.currentTarget.value as ExchangeVariable['type'];
            setVariable(i, { type, given: usual[type] });
          }}
        >
          <option>bit</option><option>number</option><option>text</option>
        </select>
        {#if !variable.result}
          <InPlace
            class="min-w-0 grow border-base-300 font-mono"
            value={valueText(variable.given)}
            label="value of {variable.name}"
            take={(text) => setVariable(i, { given: given(variable, text) })}
          />
        {/if}
        <label
          class="ml-auto flex h-[24px] shrink-0 items-center gap-1.5 text-xs text-faint"
          title="an output of the function block"
          >a result
          <input
            type="checkbox"
            class="checkbox rounded-sm checkbox-xs"
            aria-label="{variable.name} is a result"
            checked={variable.result}
            onchange={(event) => setVariable(i, { result: event.currentTarget.checked })}
          /></label
        >
      </div>
    </div>
  {/each}
  <button
    class="btn mt-1 btn-sm"
    onclick={() =>
      set({
        variables: [
          ...exchange.variables,
          { name: `value_${exchange.variables.length + 1}`, type: 'number', given: 0, result: false },
        ],
      })}>Add a variable</button
  >
</LensSection>

<LensSection title="Only where">
  {#each exchange.preconditions as { condition, reason }, i (i)}
    <div class="flex items-start gap-1 border-b border-base-300 py-1">
      <div class="min-w-0 grow">
        <PlaceEntry
          place={condition.place}
          label="precondition {i + 1}"
          take={(place) => setPrecondition(i, place)}
        />
        <span class="text-xs text-faint">{conditionText(desk.cell, condition)}; else: {reason}</span>
      </div>
      <RemoveButton
        label="remove precondition {i + 1}"
        onclick={() => set({ preconditions: exchange.preconditions.filter((_, k) => k !== i) })}
      />
    </div>
  {:else}<p class="text-faint">Nothing is asked before it begins.</p>{/each}
</LensSection>

<div class="mt-3 flex flex-wrap gap-2 border-t border-base-300 pt-2">
  <button class="btn btn-sm" onclick={code}>Function block</button>
  <button class="btn btn-sm" onclick={words}>In words</button>
  <button class="btn btn-sm" onclick={() => desk.edit({ edit: 'exchange.remove', exchange: exchange.id })}
    >Remove</button
  >
</div>
