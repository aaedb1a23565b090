<script lang="ts">
  import { lineUpBudget, type TimeOfDevice } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** What the whole line-up costs the controller and its port, and where it is slow. */
  let { onchoose }: { onchoose: (id: string) => void } = $props();
  const desk = useDesk();
  const budget = $derived(lineUpBudget(desk.cell));
  const limits = $derived(desk.cell.controller.limits);
  const port = $derived(Math.max(budget.command, budget.feedback) * 100);
  const ofLimit = (limit: number | null) => (limit === null ? 'no limit entered' : `of ${limit}`);
  const nameOf = (id: string) => desk.cell.devices.find((d) => d.id === id)?.name ?? id;
</script>

{#snippet time(title: string, hint: string, value: TimeOfDevice | undefined)}
  <div class="totals-card" title={hint}>
    <dt>{title}</dt>
    {#if value}
      <dd class="font-mono text-lg font-semibold">{Number(value.ms.toFixed(1))} ms</dd>
      <dd class="min-w-0 text-xs wrap-anywhere">
        <button class="cursor-pointer font-mono" onclick={() => onchoose(value.device)}
          >{nameOf(value.device)}</button
        >
      </dd>
    {:else}
      <dd class="font-mono text-lg font-semibold">–</dd>
    {/if}
  </div>
{/snippet}

<dl class="mt-5 grid grid-cols-5 gap-2" aria-label="the line-up as a whole">
  <div class="totals-card" title="the busier direction, with all headers and gaps">
    <dt>port load</dt>
    <dd class="font-mono text-lg font-semibold">{port.toPrecision(2)} %</dd>
    <dd class="text-xs text-faint">of {desk.cell.network.rate} Mbit/s</dd>
  </div>
  <div class="totals-card" title="both directions">
    <dt>packets a second</dt>
    <dd class="font-mono text-lg font-semibold">{Math.round(budget.packetsPerSecond)}</dd>
    <dd class="text-xs text-faint">{ofLimit(limits.packets)}</dd>
  </div>
  <div class="totals-card" title="links of all devices">
    <dt>connections</dt>
    <dd class="font-mono text-lg font-semibold">{budget.connections}</dd>
    <dd class="text-xs text-faint">{ofLimit(limits.connections)}</dd>
  </div>
  {@render time(
    'slowest reaction, worst',
    "from a change at the device until the command that answers it has come, with the controller's cycle",
    budget.slowest,
  )}
  {@render time('loss noticed last', 'until a missing device is noticed', budget.noticedLast)}
</dl>
