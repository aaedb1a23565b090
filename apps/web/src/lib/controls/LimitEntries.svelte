<script lang="ts">
  import type { Controller } from '@fadenkreuz/core';
  import LensEntry from './LensEntry.svelte';

  type Limits = Controller['limits'];
  /** What a controller or a device can carry, as its manual says; empty where that is not known. */
  let { limits, take }: { limits: Limits; take: (limits: Limits) => boolean } = $props();
  const entries = [
    ['connections', 'connections at most'],
    ['packets', 'packets a second at most'],
  ] as const;
  const update = (text: string) => {
    const ms = Number(text.replace(',', '.'));
    return take({ ...limits, update: text.trim() === '' ? null : Math.round(ms * 1000) });
  };
</script>

{#each entries as [key, title] (key)}
  <LensEntry
    {title}
    class="w-24 font-mono"
    value={limits[key] === null ? '' : String(limits[key])}
    placeholder="not known"
    inputmode="numeric"
    take={(text) => take({ ...limits, [key]: text.trim() === '' ? null : Number(text) })}
  />
{/each}
<LensEntry
  title="shortest update time, ms"
  class="w-24 font-mono"
  value={limits.update === null ? '' : String(limits.update / 1000)}
  placeholder="not known"
  inputmode="decimal"
  take={update}
/>
