<script lang="ts">
  import ByteMap from '$lib/sight/ByteMap.svelte';
  import ImagePicker from '$lib/sight/ImagePicker.svelte';
  import SightLinks from '$lib/sight/SightLinks.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { sightPlace } from '$lib/sight/sightPlace.js';
  import { sceneOf } from '@fadenkreuz/core';

  const desk = useDesk();
  const place = $derived(sightPlace(desk));
</script>

<View lensTitle="Printing">
  {#snippet main()}
    {#if place}
      <div class="mb-3 flex items-center gap-3 print:hidden">
        <ImagePicker {place} />
        <SightLinks here="/print" />
        <button class="btn ml-auto btn-sm" onclick={() => window.print()}>Print</button>
      </div>
      <ByteMap scene={sceneOf(desk.cell, place)} device={place.device} />
    {/if}
  {/snippet}
  {#snippet lens()}
    <h2 class="text-lg font-semibold">Byte map on paper</h2>
    <p class="mt-2 text-faint">
      A4, a row every two bytes, both sides' addresses at the margins; headings come again on every page. The
      list of fields follows.
    </p>
  {/snippet}
</View>
