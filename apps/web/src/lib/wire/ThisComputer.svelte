<script lang="ts">
  import { computerStanding, type OwnAddress } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** Whether this computer stands in the subnets of the cell, and what to set where it does not. */
  let { adapters, reach }: { adapters: readonly OwnAddress[]; reach: readonly string[] } = $props();
  const desk = useDesk();
  const standing = $derived(computerStanding(desk.cell, adapters));
</script>

<section aria-labelledby="computer-title">
  <h2 id="computer-title" class="font-semibold">This computer</h2>
  {#each standing as { subnet, adapter, clash, set } (subnet)}
    <p class="mt-1">
      {#if adapter && clash}
        <span class="text-error">✕</span>
        {adapter.name} has <span class="font-mono">{adapter.address}</span>, the address of {clash}. {#if set}Set
          another, such as <span class="font-mono">{set.address}</span>.{/if}
      {:else if adapter}
        <span class="text-success">✓</span>
        {adapter.name} is in <span class="font-mono">{subnet}</span> with
        <span class="font-mono">{adapter.address}</span>.
      {:else}
        ○ No adapter is in <span class="font-mono">{subnet}</span>. For real devices set one to
        {#if set}<span class="font-mono">{set.address}</span>, mask
          <span class="font-mono">{set.mask}</span>{/if}.
      {/if}
    </p>
  {/each}
  <ul class="mt-1 text-faint">
    {#each adapters as { name, subnet } (`${name} ${subnet}`)}
      <li>{name} <span class="font-mono">{subnet}</span></li>
    {/each}
  </ul>
  <p class="mt-1 text-faint">
    {#if reach.length > 0}Real devices may be reached in <span class="font-mono">{reach.join(', ')}</span>.
    {:else}Only stand-ins are reached; for real devices start with
      <span class="font-mono">--reach {desk.cell.network.subnet}</span>.{/if}
  </p>
</section>
