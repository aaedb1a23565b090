<script lang="ts">
  import { namingPieces, patternTrouble, type Naming } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import LensEntry from '$lib/controls/LensEntry.svelte';

  /** How the names of the cell are made, and how many follow. */
  const desk = useDesk();
  const naming = $derived(desk.cell.naming);
  const set = (part: Partial<Naming>) =>
    desk.edit({ edit: 'cell.set', set: { naming: { ...naming, ...part } } });
  const trouble = $derived(patternTrouble(naming.pattern));
  const astray = $derived(
    desk.findings.filter((f) => f.code === 'device.namePattern' || f.code === 'device.nameTooLong').length,
  );
</script>

<h2 class="mt-6 text-lg font-semibold">Names</h2>
<LensEntry
  title="pattern"
  class="w-[212px] font-mono"
  value={naming.pattern}
  placeholder={'{words}_{class}{number}'}
  take={(pattern) => set({ pattern: pattern.trim() })}
/>
<LensEntry
  title="most characters"
  class="w-16 font-mono"
  value={String(naming.longest)}
  inputmode="numeric"
  take={(text) => set({ longest: Number(text) })}
/>
<p class="mt-1" role="status">
  {#if trouble}<span class="text-error">✕ {trouble}.</span>
  {:else if !naming.pattern}<span class="text-faint">Without a pattern any name will do.</span>
  {:else if astray === 0}<span class="text-success">✓ All names follow it.</span>
  {:else}{astray} {astray === 1 ? 'name does' : 'names do'} not follow it.{/if}
</p>
<details class="mt-1">
  <summary class="cursor-pointer text-faint">Pieces of a pattern</summary>
  <dl class="mt-1 text-[13px]">
    {#each namingPieces as { piece, says } (piece)}
      <dt class="font-mono">{piece}</dt>
      <dd class="mb-1 pl-3 text-faint">{says}</dd>
    {/each}
  </dl>
</details>
