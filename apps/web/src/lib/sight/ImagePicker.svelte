<script lang="ts">
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { allImages, type ImagePlace } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** Which image a view is about: the device, and the direction. */
  let { place, label = 'device' }: { place: ImagePlace; label?: string } = $props();
  const desk = useDesk();

  const places = $derived(allImages(desk.cell));
  const show = (image: string) => (desk.crosshair = { image, bit: 0 });
</script>

<LongSelect
  class="max-w-72 font-mono text-lg leading-tight font-semibold"
  text={place.device.name}
  aria-label={label}
  value={place.device.id}
  onchange={(event) => {
    const next = places.find(
      (p) => p.device.id === event.currentTarget.value && p.image.direction === place.image.direction,
    );
    if (next) show(next.image.id);
  }}
>
  {#each desk.cell.devices.filter((d) => d.links.length) as device (device.id)}<option value={device.id}
      >{device.name}</option
    >{/each}
</LongSelect>
<div class="segment shrink-0" role="group" aria-label="direction">
  {#each [place.link.command, place.link.feedback] as image (image.id)}
    {@const here = image.id === place.image.id}
    {@const command = image.direction === 'command'}
    <button
      class={[
        'whitespace-nowrap',
        command ? 'text-command' : 'text-feedback',
        here && (command ? 'bg-command-fill font-semibold' : 'bg-feedback-fill font-semibold'),
      ]}
      aria-current={here}
      onclick={() => show(image.id)}
      >{command ? '▸' : '◂'} {image.direction} <span class="font-mono">{image.size} B</span></button
    >
  {/each}
</div>
