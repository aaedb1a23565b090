<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { stepSentence, type Exchange, type ExchangeStep } from '@fadenkreuz/core';
  import type { Story } from '../api/exchanges.js';
  import { waitsOf } from './score.js';

  interface Props {
    exchange: Exchange;
    story: Story | undefined;
    chosen: number | undefined;
    onchoose: (step: number | undefined) => void;
  }
  /** The steps of an exchange, each as a sentence, with how long it took. */
  let { exchange, story, chosen, onchoose }: Props = $props();
  const desk = useDesk();

  const status = $derived(desk.bench?.exchanges.find((e) => e.exchange === exchange.id));
  const now = $derived(desk.running && status?.state === 'running' ? status.step : null);
  const failed = $derived(desk.running ? status?.failure?.step : undefined);
  const ms = (value: number) => (value < 100 ? value.toFixed(1) : value.toFixed(0));

  function add() {
    const at = (chosen ?? exchange.steps.length - 1) + 1;
    const step: ExchangeStep = {
      ...{ id: crypto.randomUUID(), title: 'new step', orders: [], conditions: [], any: false, updates: 2 },
      ...{
        least: 0,
        limit: null,
        reason: '',
        late: null,
        fails: false,
        results: [],
        branches: [],
        repeat: null,
      },
    };
    const steps = [...exchange.steps.slice(0, at), step, ...exchange.steps.slice(at)];
    if (desk.edit({ edit: 'exchange.set', exchange: exchange.id, set: { steps } })) onchoose(at);
  }
</script>

<table class="w-full table-fixed border-collapse">
  <colgroup
    ><col class="w-[28px]" /><col class="w-[150px]" /><col /><col class="w-[64px]" /><col
      class="w-[64px]"
    /><col class="w-[64px]" /><col class="w-[64px]" /></colgroup
  >
  <thead>
    <tr class="border-b border-base-content/60 text-left text-xs text-faint">
      <th></th>
      <th class="py-1 font-medium">step</th>
      <th class="font-medium">what it does</th>
      <th class="text-right font-medium" title="how long it may take">may, ms</th>
      <th class="text-right font-medium" title="of all runs since the bench was started">least</th>
      <th class="text-right font-medium">typical</th>
      <th class="text-right font-medium">most</th>
    </tr>
  </thead>
  <tbody>
    {#each exchange.steps as step, at (step.id)}
      {@const waits = waitsOf(story?.ended ?? [], at)}
      {@const wrong = desk.findings.some((f) => f.place.step === step.id && f.severity !== 'notice')}
      <tr
        class={[
          'cursor-pointer border-b border-base-300 align-top',
          chosen === at ? 'bg-base-100 [&>td:first-child]:border-l-3' : 'hover:bg-base-100/60',
          failed === at && 'text-error',
        ]}
        aria-selected={chosen === at}
        aria-current={now === at ? 'step' : undefined}
        onclick={() => onchoose(at)}
      >
        <td class="py-1 text-center font-mono">{now === at ? '▶' : failed === at ? '✗' : at + 1}</td>
        <td class="py-1 wrap-anywhere"
          ><button class="cursor-pointer text-left font-semibold" onclick={() => onchoose(at)}
            >{step.title}</button
          >
          {#if wrong}<span class="font-mono text-error" title="a finding">△</span>{/if}</td
        >
        <td class="py-1 pr-2 wrap-anywhere text-faint">{stepSentence(desk.cell, exchange, step)}</td>
        <td class="py-1 text-right font-mono">{step.limit ?? '–'}</td>
        {#if waits}
          <td class="py-1 text-right font-mono">{ms(waits.least)}</td>
          <td class="py-1 text-right font-mono">{ms(waits.typical)}</td>
          <td class="py-1 text-right font-mono">{ms(waits.most)}</td>
        {:else}<td></td><td></td><td></td>{/if}
      </tr>
    {/each}
  </tbody>
</table>
<div class="mt-2 flex gap-2">
  <button class="btn btn-sm" onclick={add}>Add a step{chosen === undefined ? '' : ' behind it'}</button>
  {#if chosen !== undefined}
    <button class="btn btn-ghost btn-sm" onclick={() => onchoose(undefined)}>The exchange as a whole</button>
  {/if}
</div>
