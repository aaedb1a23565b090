<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import type { Notation } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import LensEntry from '$lib/controls/LensEntry.svelte';

  /** Ways to write addresses that the cell adds to the standard ones: each a small description. */
  const desk = useDesk();
  const own = $derived(desk.cell.notations);
  let opened = $state<string | undefined>();

  const store = (notations: Notation[]) => desk.edit({ edit: 'cell.set', set: { notations } });
  const set = (notation: Notation, entries: Partial<Notation>) =>
    store(own.map((n) => (n.id === notation.id ? { ...n, ...entries } : n)));

  function add() {
    const id = crypto.randomUUID();
    opened = id;
    store([
      ...own,
      {
        ...{
          id,
          title: `notation ${own.length + 1}`,
          side: 'device',
          pattern: 'word {unit}.{bit}',
          unitBits: 16,
        },
        ...{
          order: 'image',
          counts: 'units',
          from: 'image',
          first: 0,
          firstBit: 0,
          last: null,
          ranges: false,
        },
      },
    ]);
  }
  const choices = {
    side: ['device', 'controller'],
    unitBits: ['1', '8', '16', '32', '64', 'element', 'field'],
    order: ['little', 'big', 'image', 'element'],
    counts: ['units', 'bytes'],
    from: ['image', 'area'],
  } as const;
  const titles = {
    side: 'written by the',
    unitBits: 'bits of a unit',
    order: 'byte order of a unit',
    counts: 'numbers count',
    from: 'counted from the',
  } as const;
  const choose = (notation: Notation, key: keyof typeof choices, text: string) =>
    set(notation, { [key]: key === 'unitBits' && /^\d+$/.test(text) ? Number(text) : text });
</script>

<LensSection title="Notations of this cell" open={false} brief={String(desk.cell.notations.length || 'none')}>
  {#each own as notation (notation.id)}
    <div class="flex items-center justify-between gap-2 border-b border-base-300 py-1">
      <button
        class="min-w-0 cursor-pointer text-left wrap-anywhere underline"
        aria-expanded={opened === notation.id}
        onclick={() => (opened = opened === notation.id ? undefined : notation.id)}>{notation.title}</button
      >
      <button
        class="cursor-pointer text-xs underline"
        aria-label="remove {notation.title}"
        onclick={() => store(own.filter((n) => n.id !== notation.id))}>remove</button
      >
    </div>
    {#if opened === notation.id}
      <LensEntry
        title="called"
        class="w-44"
        value={notation.title}
        take={(title) => set(notation, { title: title.trim() })}
      />
      <LensEntry
        title="written"
        class="w-52 font-mono"
        value={notation.pattern}
        label="pattern, with unit, bit, area, array, device, slot, subslot in braces"
        take={(pattern) => set(notation, { pattern: pattern.trim() })}
      />
      {#each Object.keys(choices) as (keyof typeof choices)[] as key (key)}
        <label class="lens-row">
          {titles[key]}
          <select
            class="inplace cursor-pointer font-mono"
            aria-label="{titles[key]}, {notation.title}"
            value={String(notation[key])}
            onchange={(event) => choose(notation, key, event.currentTarget.value)}
          >
            {#each choices[key] as choice (choice)}<option>{choice}</option>{/each}
          </select>
        </label>
      {/each}
      <LensEntry
        title="first unit is"
        class="w-20 font-mono"
        value={String(notation.first)}
        take={(text) => set(notation, { first: Number(text) })}
      />
      <LensEntry
        title="lowest bit is"
        class="w-20 font-mono"
        value={String(notation.firstBit)}
        take={(text) => set(notation, { firstBit: Number(text) })}
      />
    {/if}
  {/each}
  <button class="btn mt-2 btn-sm" onclick={add}>Describe a notation</button>
</LensSection>
