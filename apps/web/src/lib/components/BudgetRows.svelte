<script lang="ts">
  import { linkBudget, longestUpdate, type Link } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** What a cyclic link costs the network and how quick it is, with the longest update time that is quick enough. */
  let { link }: { link: Link } = $props();
  const desk = useDesk();

  /** ms; questions to the arithmetic, no part of the design. */
  let cycle = $state(10);
  let wanted = $state<number | undefined>();
  const budget = $derived(linkBudget(link, Math.max(0, cycle || 0)));
  const advice = $derived(wanted ? longestUpdate(wanted, Math.max(0, cycle || 0)) : undefined);
  const ms = (value: number) => `${Number(value.toFixed(1))} ms`;
  const percent = (share: number) => `${(share * 100).toPrecision(2)} %`;
  const take = (update: number) =>
    desk.edit({
      edit: 'link.set',
      link: link.id,
      set: { commandRpi: update * 1000, feedbackRpi: update * 1000 },
    });
</script>

{#if budget}
  <h3 class="lens-heading">Network</h3>
  <div class="lens-row">
    <span>packets a second</span><span class="font-mono">{Math.round(budget.packetsPerSecond)}</span>
  </div>
  {#each [['▸', 'command', budget.command, 'text-command'], ['◂', 'feedback', budget.feedback, 'text-feedback']] as const as [arrow, side, direction, tone] (side)}
    <div class="lens-row" title="with all headers and the gap; share of 100 Mbit/s">
      <span class={tone}>{arrow} {side}, on the wire</span>
      <span class="font-mono">{direction.wire} B · {percent(direction.share)}</span>
    </div>
  {/each}
  <label class="lens-row">
    controller cycle, ms
    <input
      class="inplace w-16 border-base-300 text-right font-mono"
      type="number"
      min="0"
      bind:value={cycle}
    />
  </label>
  <div class="lens-row" title="from a change at the device until the command that answers it has come">
    <span>reaction, worst · typical</span>
    <span class="font-mono">{ms(budget.reaction.worst)} · {ms(budget.reaction.typical)}</span>
  </div>
  <label class="lens-row">
    reaction asked for, ms
    <input
      class="inplace w-16 border-base-300 text-right font-mono"
      type="number"
      min="0"
      placeholder="any"
      bind:value={wanted}
    />
  </label>
  {#if wanted}
    {#if advice}
      <p class="mt-1">
        {ms(advice)} is the longest update time that meets it.
        <button class="btn ml-1 btn-xs" onclick={() => take(advice)}>Take it</button>
      </p>
    {:else}
      <p class="mt-1">No update time meets it: two cycles of the controller alone take {ms(2 * cycle)}.</p>
    {/if}
  {/if}
{/if}
