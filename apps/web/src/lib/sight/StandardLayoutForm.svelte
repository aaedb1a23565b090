<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { standardLayouts, type Image } from '@fadenkreuz/core';

  /** Adds the fields of a standard layout to an image: speed control assemblies, telegrams, control and status word. */
  let { image }: { image: Image } = $props();
  const desk = useDesk();

  const offered = $derived(standardLayouts.filter(({ direction }) => direction === image.direction));
  let id = $state('');
  let from = $state(0);
  const chosen = $derived(offered.find((layout) => layout.id === id) ?? offered[0]);

  function add() {
    if (!chosen) return;
    const fields = chosen
      .fields(() => crypto.randomUUID())
      .map((field) => ({ ...field, at: field.at + from * 8 }));
    desk.edit({ edit: 'image.arrange', image: image.id, title: `add ${chosen.title}`, fields });
  }
  const setFrom = (text: string) => {
    if (!/^\d+$/.test(text.trim())) return false;
    from = Number(text);
    return true;
  };
</script>

<label class="lens-row"
  >layout
  <select
    class="inplace w-48"
    aria-label="standard layout"
    value={chosen?.id}
    onchange={(e) => (id = e.currentTarget.value)}
  >
    {#each offered as layout (layout.id)}<option value={layout.id}>{layout.title}</option>{/each}
  </select></label
>
<LensEntry title="from byte" class="w-16 font-mono" value={String(from)} take={setFrom} />
{#if chosen}
  <p class="text-xs text-faint">{chosen.bytes} bytes; {chosen.source}.</p>
  <button class="btn mt-1 btn-sm" onclick={add}>Add its fields</button>
{/if}
