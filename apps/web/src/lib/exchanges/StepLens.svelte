<script lang="ts">
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import InPlace from '$lib/controls/InPlace.svelte';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import LensSection from '$lib/controls/LensSection.svelte';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    comparisons,
    findPlace,
    stepSentence,
    type Exchange,
    type ExchangeCondition,
    type ExchangeOrder,
    type ExchangePlace,
    type ExchangeStep,
  } from '@fadenkreuz/core';
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import PlaceEntry from './PlaceEntry.svelte';
  import { histogram, waitsOf } from './score.js';
  import { placeChoices } from './placeChoices.js';
  import { valueText, valueTyped } from './valueTyped.js';
  import type { Story } from '../api/exchanges.js';

  interface Props {
    exchange: Exchange;
    at: number;
    story: Story | undefined;
    onmove: (to: number) => void;
  }
  /** A step of an exchange, edited: what it gives, what it waits for, how long it may take, where it goes on. */
  let { exchange, at, story, onmove }: Props = $props();
  const desk = useDesk();

  const step = $derived(exchange.steps[at]!);
  const findings = $derived(desk.findings.filter((f) => f.place.step === step.id));
  const waits = $derived(waitsOf(story?.ended ?? [], at));
  const bins = $derived(waits && waits.count > 1 ? histogram(waits.ms) : []);
  const most = $derived(Math.max(1, ...bins.map((b) => b.count)));

  const setSteps = (steps: ExchangeStep[]) =>
    desk.edit({ edit: 'exchange.set', exchange: exchange.id, set: { steps } });
  const set = (part: Partial<ExchangeStep>) =>
    setSteps(exchange.steps.map((s) => (s.id === step.id ? { ...s, ...part } : s)));
  function move(by: number) {
    const steps = [...exchange.steps];
    const [own] = steps.splice(at, 1);
    steps.splice(at + by, 0, own!);
    if (setSteps(steps)) onmove(at + by);
  }
  function remove() {
    if (setSteps(exchange.steps.filter((s) => s !== step))) onmove(Math.max(0, at - 1));
  }
  const readsOf = (place: ExchangePlace) => findPlace(desk.cell, place)?.reads ?? 'number';
  const usual = (place: ExchangePlace) => ({ bit: true, number: 0, text: '' })[readsOf(place)];

  const setOrder = (i: number, part: Partial<ExchangeOrder>) =>
    set({ orders: step.orders.map((o, k) => (k === i ? { ...o, ...part } : o)) });
  const setCondition = (i: number, part: Partial<ExchangeCondition>) =>
    set({ conditions: step.conditions.map((c, k) => (k === i ? { ...c, ...part } : c)) });
  /** The first place of a side that the exchange's devices have. */
  function somePlace(side: ExchangePlace['side']): ExchangePlace | undefined {
    const like = [...step.orders, ...step.conditions].map((o) => o.place.device)[0];
    const device = desk.cell.devices.find((d) => d.id === like) ?? desk.chosen;
    const choice = device && placeChoices(device, side)[0];
    return device && choice && { device: device.id, ...choice.place };
  }
  function addOrder() {
    const place = somePlace('command');
    if (place) set({ orders: [...step.orders, { place, how: 'set', to: usual(place), back: false }] });
  }
  function addCondition() {
    const place = somePlace('feedback');
    if (!place) return;
    const condition = { place, is: 'equals' as const, to: usual(place), upTo: null, stable: 0 };
    set({ conditions: [...step.conditions, condition], limit: step.limit ?? 1000 });
  }
  function take(place: ExchangePlace, typed: string, put: (value: ExchangeOrder['to']) => boolean): boolean {
    const value = valueTyped(typed, readsOf(place), exchange.variables);
    if (value !== undefined) return put(value);
    desk.note = {
      says: `${typed} is no value of this field.`,
      cure: 'Type 1 or 0 for a bit, a number, or the name of a variable of the exchange.',
    };
    return false;
  }
  const whole = (text: string) => (/^\d+$/.test(text.trim()) ? Number(text) : undefined);
  const compared = new Set(['equals', 'differs', 'above', 'below', 'between']);
</script>

<div class="flex items-baseline gap-2">
  <h2 class="text-lg font-semibold">Step {at + 1}</h2>
  <span class="ml-auto flex gap-1">
    <button
      class="grid size-[24px] place-items-center"
      disabled={at === 0}
      aria-label="earlier"
      onclick={() => move(-1)}><ArrowUp size={14} aria-hidden="true" /></button
    >
    <button
      class="grid size-[24px] place-items-center"
      disabled={at === exchange.steps.length - 1}
      aria-label="later"
      onclick={() => move(1)}><ArrowDown size={14} aria-hidden="true" /></button
    >
    <RemoveButton label="remove the step" onclick={remove} />
  </span>
</div>
<InPlace
  class="w-full font-semibold"
  value={step.title}
  label="title of the step"
  take={(title) => set({ title })}
/>
<p class="mt-1 text-faint">{stepSentence(desk.cell, exchange, step)}</p>
{#each findings as finding, i (i)}<FindingLine {finding} />{/each}

<LensSection title="Gives">
  {#each step.orders as order, i (i)}
    <div class="flex items-start gap-1 border-b border-base-300 py-1">
      <div class="min-w-0 grow">
        <PlaceEntry
          place={order.place}
          label="order {i + 1}"
          take={(place) => setOrder(i, { place, to: usual(place) })}
        />
        <span class="flex items-center gap-1">
          <select
            class="inplace w-24"
            aria-label="how order {i + 1} is given"
            value={order.how}
            onchange={(event) => setOrder(i, { how: event.currentTarget.value as ExchangeOrder['how'] })}
          >
            <option value="set">set to</option><option value="toggle">turn over</option><option
              value="increment">raise by 1, then from</option
            >
          </select>
          {#if order.how !== 'toggle'}
            <InPlace
              class="w-20 border-base-300 font-mono"
              value={valueText(order.to)}
              label="value of order {i + 1}"
              take={(text) => take(order.place, text, (to) => setOrder(i, { to }))}
            />
          {/if}
          <label class="ml-auto flex items-center gap-1 text-xs" title="taken back when the step ends"
            ><input
              type="checkbox"
              class="checkbox rounded-sm checkbox-xs"
              checked={order.back}
              onchange={(event) => setOrder(i, { back: event.currentTarget.checked })}
            />pulse</label
          >
        </span>
      </div>
      <RemoveButton
        label="remove order {i + 1}"
        onclick={() => set({ orders: step.orders.filter((_, k) => k !== i) })}
      />
    </div>
  {/each}
  <button class="btn mt-1 btn-sm" onclick={addOrder}>Add an order</button>
  <LensEntry
    title="lasts at least, update times"
    class="w-16 font-mono"
    value={String(step.updates)}
    take={(text) => set({ updates: whole(text) ?? step.updates })}
  />
  <LensEntry
    title="and at least, ms"
    class="w-16 font-mono"
    value={String(step.least)}
    take={(text) => set({ least: whole(text) ?? step.least })}
  />
</LensSection>

<LensSection title="Waits until">
  {#if step.conditions.length > 1}
    <span class="segment mb-1" role="group" aria-label="how many must hold">
      <button aria-pressed={!step.any} onclick={() => set({ any: false })}>all hold</button>
      <button aria-pressed={step.any} onclick={() => set({ any: true })}>one holds</button>
    </span>
  {/if}
  {#each step.conditions as condition, i (i)}
    <div class="flex items-start gap-1 border-b border-base-300 py-1">
      <div class="min-w-0 grow">
        <PlaceEntry
          place={condition.place}
          label="condition {i + 1}"
          take={(place) => setCondition(i, { place, to: usual(place) })}
        />
        <span class="flex flex-wrap items-center gap-1">
          <select
            class="inplace w-24"
            aria-label="comparison of condition {i + 1}"
            value={condition.is}
            onchange={(event) =>
              setCondition(i, { is: event.currentTarget.value as ExchangeCondition['is'] })}
          >
            {#each comparisons as is (is)}<option>{is}</option>{/each}
          </select>
          {#if compared.has(condition.is)}
            <InPlace
              class="w-16 border-base-300 font-mono"
              value={valueText(condition.to)}
              label="value of condition {i + 1}"
              take={(text) => take(condition.place, text, (to) => setCondition(i, { to }))}
            />
          {/if}
          {#if condition.is === 'between'}
            <InPlace
              class="w-16 border-base-300 font-mono"
              value={valueText(condition.upTo ?? condition.to)}
              label="upper end of condition {i + 1}"
              take={(text) => take(condition.place, text, (upTo) => setCondition(i, { upTo }))}
            />
          {/if}
          <label class="flex items-center gap-1 text-xs">
            for <InPlace
              class="w-14 border-base-300 font-mono"
              value={String(condition.stable)}
              label="how long condition {i + 1} holds, ms"
              take={(text) => setCondition(i, { stable: whole(text) ?? condition.stable })}
            /> ms
          </label>
        </span>
      </div>
      <RemoveButton
        label="remove condition {i + 1}"
        onclick={() => set({ conditions: step.conditions.filter((_, k) => k !== i) })}
      />
    </div>
  {/each}
  <button class="btn mt-1 btn-sm" onclick={addCondition}>Add a condition</button>
  {#if step.conditions.length > 0}
    <LensEntry
      title="may take, ms"
      class="w-20 font-mono"
      value={step.limit === null ? '' : String(step.limit)}
      placeholder="no limit"
      take={(text) => set({ limit: text.trim() === '' ? null : (whole(text) ?? step.limit) })}
    />
    <LensEntry
      title="else"
      wraps
      class="w-52"
      value={step.reason}
      label="reason when it takes longer"
      take={(reason) => set({ reason })}
    />
    <label class="lens-row"
      >when it takes longer
      <select
        class="inplace w-36"
        aria-label="when it takes longer"
        value={step.late ?? ''}
        onchange={(event) => set({ late: event.currentTarget.value || null })}
      >
        <option value="">it has failed</option>
        {#each exchange.steps as other, i (other.id)}<option value={other.id}
            >go on at {i + 1} {other.title}</option
          >{/each}
        <option value="done">it is done</option>
      </select></label
    >
  {/if}
</LensSection>

<LensSection
  title="Then"
  open={false}
  brief={step.branches.length + step.results.length > 0 || step.repeat ? 'more' : 'next step'}
>
  {#each step.results as result, i (i)}
    <div class="flex items-start gap-1 border-b border-base-300 py-1">
      <div class="min-w-0 grow">
        <PlaceEntry
          place={result.place}
          label="result {i + 1}"
          take={(place) => set({ results: step.results.map((r, k) => (k === i ? { ...r, place } : r)) })}
        />
        <label class="flex items-center gap-1 text-xs"
          >kept as <select
            class="inplace w-28 font-mono"
            aria-label="variable of result {i + 1}"
            value={result.variable}
            onchange={(event) =>
              set({
                results: step.results.map((r, k) =>
                  k === i ? { ...r, variable: event.currentTarget.value } : r,
                ),
              })}
          >
            {#each exchange.variables as { name } (name)}<option>{name}</option>{/each}
          </select></label
        >
      </div>
      <RemoveButton
        label="remove result {i + 1}"
        onclick={() => set({ results: step.results.filter((_, k) => k !== i) })}
      />
    </div>
  {/each}
  <button
    class="btn mt-1 btn-sm"
    disabled={exchange.variables.length === 0}
    title={exchange.variables.length === 0 ? 'Add a variable to the exchange first.' : undefined}
    onclick={() => {
      const place = somePlace('feedback');
      if (place) set({ results: [...step.results, { variable: exchange.variables[0]!.name, place }] });
    }}>Keep a value</button
  >
  {#each step.branches as branch, i (i)}
    <div class="mt-1 border-b border-base-300 py-1">
      {#each branch.conditions as condition, k (k)}
        <div class="flex items-center gap-1">
          <span class="text-faint">{k === 0 ? 'where' : 'and'}</span>
          <div class="min-w-0 grow">
            <PlaceEntry
              place={condition.place}
              label="branch {i + 1}"
              take={(place) =>
                set({
                  branches: step.branches.map((b, n) =>
                    n === i
                      ? {
                          ...b,
                          conditions: b.conditions.map((c, m) =>
                            m === k ? { ...c, place, to: usual(place) } : c,
                          ),
                        }
                      : b,
                  ),
                })}
            />
          </div>
          <InPlace
            class="w-14 border-base-300 font-mono"
            value={valueText(condition.to)}
            label="value of branch {i + 1}"
            take={(text) =>
              take(condition.place, text, (to) =>
                set({
                  branches: step.branches.map((b, n) =>
                    n === i
                      ? { ...b, conditions: b.conditions.map((c, m) => (m === k ? { ...c, to } : c)) }
                      : b,
                  ),
                }),
              )}
          />
        </div>
      {/each}
      <span class="flex items-center gap-1"
        >go on at
        <select
          class="inplace w-36"
          aria-label="where branch {i + 1} goes"
          value={branch.to}
          onchange={(event) =>
            set({
              branches: step.branches.map((b, n) => (n === i ? { ...b, to: event.currentTarget.value } : b)),
            })}
        >
          {#each exchange.steps as other, n (other.id)}<option value={other.id}>{n + 1} {other.title}</option
            >{/each}
          <option value="done">the end</option>
        </select>
        <RemoveButton
          class="ml-auto"
          label="remove branch {i + 1}"
          onclick={() => set({ branches: step.branches.filter((_, n) => n !== i) })}
        />
      </span>
    </div>
  {/each}
  <button
    class="btn mt-1 btn-sm"
    onclick={() => {
      const place = somePlace('feedback');
      if (!place) return;
      const condition = { place, is: 'equals' as const, to: usual(place), upTo: null, stable: 0 };
      set({ branches: [...step.branches, { conditions: [condition], to: 'done' }] });
    }}>Add a branch</button
  >
  <label class="lens-row"
    >goes back to
    <select
      class="inplace w-40"
      aria-label="goes back to"
      value={step.repeat?.to ?? ''}
      onchange={(event) =>
        set({
          repeat: event.currentTarget.value
            ? { to: event.currentTarget.value, times: step.repeat?.times ?? 2 }
            : null,
        })}
    >
      <option value="">no step</option>
      {#each exchange.steps.slice(0, at + 1) as other, n (other.id)}<option value={other.id}
          >{n + 1} {other.title}</option
        >{/each}
    </select></label
  >
  {#if step.repeat}
    {@const { repeat } = step}
    <LensEntry
      title="so often in all"
      class="w-20 font-mono"
      value={valueText(repeat.times)}
      take={(text) => {
        const times = valueTyped(text, 'number', exchange.variables);
        return times !== undefined && set({ repeat: { ...repeat, times } });
      }}
    />
  {/if}
  <label class="lens-row"
    >the exchange fails here <input
      type="checkbox"
      class="checkbox rounded-sm checkbox-xs"
      checked={step.fails}
      onchange={(event) => set({ fails: event.currentTarget.checked })}
    /></label
  >
</LensSection>

{#if waits}
  <LensSection title="Measured">
    <p class="font-mono text-xs">
      {waits.count} × least {waits.least.toFixed(1)}, typical {waits.typical.toFixed(1)}, most {waits.most.toFixed(
        1,
      )} ms
    </p>
    {#if bins.length > 0}
      <svg viewBox="0 0 240 64" class="mt-1 w-full" role="img" aria-label="histogram of its waits">
        {#each bins as bin, i (bin.from)}
          <rect
            x={i * 20 + 1}
            y={50 - (46 * bin.count) / most}
            width="18"
            height={(46 * bin.count) / most}
            class="fill-feedback"
          />
        {/each}
        <text x="1" y="62" class="fill-faint text-xs">{bins[0]!.from.toFixed(0)} ms</text>
        <text x="239" y="62" text-anchor="end" class="fill-faint text-xs">{waits.most.toFixed(0)} ms</text>
      </svg>
    {/if}
  </LensSection>
{/if}
