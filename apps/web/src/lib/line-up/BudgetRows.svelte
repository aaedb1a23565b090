<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    linkBudget,
    longerUpdate,
    longestUpdate,
    protocolOf,
    withUpdate,
    type Link,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** What a link costs the network and how quick it is, with the longest update time that is quick enough. */
  let { link }: { link: Link } = $props();
  const desk = useDesk();

  /** A question to the arithmetic, no part of the design, ms. */
  let wanted = $state<number | undefined>();
  const cycle = $derived(desk.cell.controller.cycle / 1000);
  const budget = $derived(linkBudget(link, cycle, desk.cell.network.rate));
  const advice = $derived(wanted ? longestUpdate(wanted, cycle) : undefined);
  /** Only what comes by itself, or is asked for at one time, can be given a longer one here. */
  const timed = $derived('feedbackRpi' in link);
  const status = $derived(desk.bench?.links.find((l) => l.link === link.id));
  const calmer = $derived(
    timed && status ? longerUpdate(protocolOf(link).times(link).feedbackMs, status.lately.lost) : undefined,
  );
  const ms = (value: number) => `${Number(value.toFixed(1))} ms`;
  const percent = (share: number) => `${(share * 100).toPrecision(2)} %`;
  const take = (update: number) =>
    desk.edit({
      edit: 'link.set',
      link: link.id,
      set: withUpdate(link, update * 1000),
    });
</script>

<LensSection
  title="Network load"
  open={false}
  brief="{percent(budget.command.share + budget.feedback.share)} of the port"
>
  <div class="lens-row">
    <span>packets a second</span><span class="font-mono">{Math.round(budget.packetsPerSecond)}</span>
  </div>
  {#each [['▸', 'command', budget.command, 'text-command'], ['◂', 'feedback', budget.feedback, 'text-feedback']] as const as [arrow, side, direction, tone] (side)}
    <div
      class="lens-row"
      title="its longest packet with all headers and the gap; share of {desk.cell.network.rate} Mbit/s"
    >
      <span class={tone}>{arrow} {side}, on the wire</span>
      <span class="font-mono">{direction.wire} B · {percent(direction.share)}</span>
    </div>
  {/each}
  <div
    class="lens-row"
    title="from a change at the device until the command that answers it has come; the controller's cycle is {cycle} ms"
  >
    <span>reaction, worst · typical</span>
    <span class="font-mono">{ms(budget.reaction.worst)} · {ms(budget.reaction.typical)}</span>
  </div>
  <div class="lens-row">
    <span>loss is noticed after</span><span class="font-mono">{ms(budget.lossNoticed)}</span>
  </div>
  {#if timed}
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
    {#if calmer && status}
      <p class="mt-1 border-l-[3px] border-base-content pl-3">
        {percent(status.lately.lost)} of the packets are lost: {ms(calmer)} would load the network less.
        <button class="btn ml-1 btn-xs" onclick={() => take(calmer)}>Take it</button>
      </p>
    {/if}
  {/if}
</LensSection>
