<script lang="ts">
  import InPlace from '$lib/controls/InPlace.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { Exchange, Plain } from '@fadenkreuz/core';
  import Play from '@lucide/svelte/icons/play';
  import Square from '@lucide/svelte/icons/square';
  import StepForward from '@lucide/svelte/icons/step-forward';
  import type { Story } from '../api/exchanges.js';

  interface Props {
    exchange: Exchange;
    story: Story | undefined;
    onasked: () => void;
  }
  /** Runs an exchange on the bench: with values of its variables, by step or at speed, once or several times. */
  let { exchange, story, onasked }: Props = $props();
  const desk = useDesk();

  let times = $state(1);
  let byStep = $state(false);
  let typed = $state<Record<string, string>>({});
  const status = $derived(desk.bench?.exchanges.find((e) => e.exchange === exchange.id));
  const runs = $derived(desk.running && status?.state === 'running');
  const inputs = $derived(exchange.variables.filter((v) => !v.result));
  const results = $derived(story?.ended.at(-1)?.results ?? {});

  const given = (): Record<string, Plain> =>
    Object.fromEntries(
      inputs.flatMap(({ name, type }) => {
        const text = typed[name];
        if (text === undefined) return [];
        return [[name, type === 'text' ? text : type === 'bit' ? text === '1' : Number(text)]];
      }),
    );
  async function run() {
    await desk.askArmed('/run-exchange', { exchange: exchange.id, times, byStep, given: given() });
    onasked();
  }
  async function stop() {
    await desk.ask('POST', '/stop-exchange', { exchange: exchange.id });
    onasked();
  }
  async function next() {
    await desk.askArmed('/release-exchange', { exchange: exchange.id });
    onasked();
  }
  const says = $derived.by(() => {
    if (!status || !desk.running) return '';
    const step = status.step === null ? '' : `step ${status.step + 1}, ${exchange.steps[status.step]?.title}`;
    const round = status.times > 1 ? `run ${status.run} of ${status.times}: ` : '';
    if (status.state === 'running') return `${round}${step}${status.waits ? ', waits for you' : ''}`;
    if (status.state !== 'failed') return `${round}${status.state}`;
    const at = status.failure?.step;
    return `${round}failed${at == null ? '' : ` at step ${at + 1}, ${exchange.steps[at]?.title}`}: ${status.failure?.reason ?? ''}`;
  });
</script>

<div class="flex flex-wrap items-center gap-x-3 gap-y-2">
  {#each inputs as { name, given: own, type } (name)}
    <label class="flex items-center gap-1">
      <span class="text-faint">{name}</span>
      <InPlace
        class={['border-base-300 font-mono', type === 'text' ? 'w-36' : 'w-16']}
        value={typed[name] ?? (typeof own === 'boolean' ? (own ? '1' : '0') : String(own))}
        label="value of {name} for this run"
        take={(text) => ((typed[name] = text), true)}
      />
    </label>
  {/each}
  <label class="flex items-center gap-1"
    ><input
      type="number"
      class="input w-16 font-mono input-sm"
      min="1"
      max="100000"
      aria-label="how often"
      bind:value={times}
    />×</label
  >
  <label class="flex items-center gap-1"
    ><input type="checkbox" class="checkbox rounded-sm checkbox-xs" bind:checked={byStep} />by step</label
  >
  {#if runs}
    {#if byStep || status?.waits}
      <button class="btn btn-sm" disabled={!status?.waits} onclick={next}
        ><StepForward size={14} aria-hidden="true" />Next step</button
      >
    {/if}
    <button class="btn btn-sm" onclick={stop}><Square size={14} aria-hidden="true" />Stop</button>
  {:else}
    <button
      class="btn btn-sm"
      disabled={!desk.running || !desk.armed || exchange.steps.length === 0}
      title={!desk.running
        ? 'Start the bench first'
        : desk.armed
          ? undefined
          : 'Arm first, at the foot on the right'}
      onclick={run}><Play size={14} aria-hidden="true" />Run</button
    >
  {/if}
  <span class={['min-w-0 wrap-anywhere', status?.state === 'failed' && 'text-error']} role="status"
    >{says}</span
  >
</div>
{#if exchange.variables.some((v) => v.result) && Object.keys(results).length > 0}
  <p class="mt-1">
    {#each exchange.variables.filter((v) => v.result) as { name } (name)}
      <span class="mr-4"
        ><span class="text-faint">{name}</span>
        <span class="font-mono font-semibold">{String(results[name])}</span></span
      >
    {/each}
  </p>
{/if}
