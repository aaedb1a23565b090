<script lang="ts">
  import DeviceLens from '$lib/line-up/DeviceLens.svelte';
  import LineUpLinks from '$lib/line-up/LineUpLinks.svelte';
  import Reticle from '$lib/line-up/Reticle.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  const desk = useDesk();
  const chosen = $derived(desk.chosen?.id);
  const device = $derived(desk.chosen);
  const shapes = [
    ['●', 'open'],
    ['▲', 'lost or refused'],
    ['□', 'no stand-in'],
    ['○', 'bench off'],
  ] as const;
</script>

<View lensTitle="Device">
  {#snippet main()}
    <div class="flex h-full flex-col">
      <div class="mb-2 flex items-center gap-3">
        <h1 class="text-lg font-semibold">Line-up</h1>
        <LineUpLinks here="/reticle" />
      </div>
      <div class="min-h-0 flex-1">
        <Reticle devices={desk.cell.devices} {chosen} onchoose={(id) => desk.choose(id)} />
      </div>
      <p class="flex flex-wrap justify-center gap-x-4 text-xs text-faint">
        {#each shapes as [shape, word] (word)}<span>{shape} {word}</span>{/each}
        <span>ring: update time</span><span>width: bytes a second</span>
      </p>
    </div>
  {/snippet}
  {#snippet lens()}
    {#if device}
      {#key device.id}<DeviceLens {device} oncopied={(id) => desk.choose(id)} />{/key}
    {:else}
      <p class="text-faint">Choose a device.</p>
    {/if}
  {/snippet}
</View>
