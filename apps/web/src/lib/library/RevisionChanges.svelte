<script lang="ts">
  import type { FactChange } from '@fadenkreuz/core/describers';

  /** What differs between two describers, or between a device and a describer. */
  let { changes, none }: { changes: readonly FactChange[]; none: string } = $props();
</script>

<ul class="text-[13px]" aria-label="what differs">
  {#each changes as { section, name, before, after }, i (i)}
    <li class="border-b border-base-300 py-1">
      <span class="text-xs text-faint">{section}</span>
      <span class="font-mono font-semibold break-words">{name}</span>
      {#if before === null}<span class="text-success">+ {after}</span>
      {:else if after === null}<span class="text-error">− {before}</span>
      {:else}{before} → {after}{/if}
    </li>
  {:else}
    <li class="text-faint">{none}</li>
  {/each}
</ul>
