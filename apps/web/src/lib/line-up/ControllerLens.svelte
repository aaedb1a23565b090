<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import { lineUpBudget, type Controller } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { oneOf } from '$lib/controls/oneOf.js';
  import LimitEntries from '$lib/controls/LimitEntries.svelte';

  /** The controller: its program's cycle, what it can carry, and what the line-up asks of it. */
  const desk = useDesk();
  const controller = $derived(desk.cell.controller);
  const set = (part: Partial<Controller>) => desk.edit({ edit: 'controller.set', set: part });

  const budget = $derived(lineUpBudget(desk.cell));
  const percent = (share: number) => `${(share * 100).toPrecision(2)} %`;
</script>

<h2 class="font-mono text-lg font-semibold break-words">{controller.name}</h2>
<p class="text-faint">controller</p>

<LensSection title="What the line-up asks of it">
  {#each [['connections', String(budget.connections)], ['packets a second', String(Math.round(budget.packetsPerSecond))], ['▸ of its port', percent(budget.command)], ['◂ of its port', percent(budget.feedback)], ['slowest reaction, worst', `${Math.round(budget.slowest?.ms ?? 0)} ms`]] as [title, value] (title)}
    <div class="lens-row"><span>{title}</span><span class="font-mono">{value}</span></div>
  {/each}
</LensSection>

<LensSection title="What it can do">
  <LensEntry
    title="cycle, ms"
    class="w-20 font-mono"
    value={String(controller.cycle / 1000)}
    inputmode="decimal"
    take={(text) => set({ cycle: Math.round(Number(text.replace(',', '.')) * 1000) })}
  />
  <label class="lens-row">
    its elements fill
    <select
      class="inplace cursor-pointer pr-6"
      aria-label="byte order of the controller's elements"
      value={controller.elementOrder}
      onchange={(event) => set({ elementOrder: event.currentTarget.value === 'big' ? 'big' : 'little' })}
    >
      <option value="little">low byte first</option>
      <option value="big">high byte first</option>
    </select>
  </label>
  <LimitEntries limits={controller.limits} take={(limits) => set({ limits })} />
</LensSection>

<LensSection title="Direct addresses" open={false} brief={controller.direct?.counts ?? 'not chosen'}>
  <label class="lens-row">
    they count
    <select
      class="inplace max-w-52 min-w-0 cursor-pointer"
      aria-label="how direct addresses count"
      value={controller.direct?.counts ?? ''}
      onchange={(event) => {
        const counts = oneOf(['bytes', 'units', 'words'] as const, event.currentTarget.value);
        set({
          direct: counts ? { ...(controller.direct ?? { inputFrom: 0, outputFrom: 0 }), counts } : null,
        });
      }}
    >
      <option value="">not chosen, none are shown</option>
      <option value="bytes">bytes: %IW2 is bytes 2, 3</option>
      <option value="words">words: %IW1 is bytes 2, 3, %ID2 4 to 7</option>
      <option value="units">each size its own: %ID1 is bytes 4 to 7</option>
    </select>
  </label>
  {#if controller.direct}
    {@const direct = controller.direct}
    <LensEntry
      title="bytes before the inputs"
      class="w-20 font-mono"
      value={String(direct.inputFrom)}
      inputmode="numeric"
      take={(text) => set({ direct: { ...direct, inputFrom: Number(text) } })}
    />
    <LensEntry
      title="bytes before the outputs"
      class="w-20 font-mono"
      value={String(direct.outputFrom)}
      inputmode="numeric"
      take={(text) => set({ direct: { ...direct, outputFrom: Number(text) } })}
    />
  {/if}
</LensSection>
