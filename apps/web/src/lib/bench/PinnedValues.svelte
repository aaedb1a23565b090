<script lang="ts">
  import { allImages, codecOf } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import X from '@lucide/svelte/icons/x';
  import LiveValue from './LiveValue.svelte';
  import { readingsOf } from './readings.js';

  /** Values of any devices that stay in sight; what may be written is written here, too. */
  const desk = useDesk();

  const pinned = $derived.by(() => {
    const places = allImages(desk.cell);
    return desk.pins.list.flatMap((pin) => {
      const place = places.find(({ image }) => image.id === pin.image);
      const at = place ? codecOf(place.image).signals.findIndex(({ id }) => id === pin.signal) : -1;
      if (!place || at < 0) return [];
      const { device, image, link } = place;
      const bytes = desk.bytes.get(image.id);
      const status = desk.linkStatus(device.id);
      const signal = codecOf(image).signals[at]!;
      return [{ pin, device, image, link, status, signal, reading: readingsOf(image, bytes)?.[at] }];
    });
  });
  const links = $derived([...new Set(pinned.map(({ link }) => link.id))].join());
  $effect(() => {
    desk.live.show('pins', links === '' ? [] : links.split(','));
    return () => desk.live.show('pins', []);
  });
</script>

{#if pinned.length > 0}
  <ul
    class="mb-3 grid grid-cols-[repeat(auto-fill,minmax(25rem,1fr))] gap-x-6 rounded-box border border-base-300 bg-base-100 px-3 py-1"
    aria-label="pinned values"
  >
    {#each pinned as { pin, device, image, status, signal, reading } (pin.signal)}
      <li class="flex min-h-8 items-center gap-2 border-b border-base-300 font-mono">
        <button
          class="min-h-[24px] cursor-pointer truncate text-left text-xs text-faint"
          title={device.name}
          aria-label="show {device.name}"
          onclick={() => desk.choose(device.id)}>{device.name}</button
        >
        <span class={['truncate', image.direction === 'command' ? 'text-command' : 'text-feedback']}
          >{image.direction === 'command' ? '▸' : '◂'}</span
        >
        <span class="truncate" title={signal.name}>{signal.name}</span>
        <span class="ml-auto shrink-0 font-semibold" data-pinned={signal.name}>
          <LiveValue
            deviceId={device.id}
            {signal}
            {reading}
            writable={image.direction === 'command' && desk.armed && status !== undefined}
            waits={status?.state !== 'open'}
            stale={image.direction === 'feedback' && status?.state !== 'open'}
            late={false}
          />
        </span>
        <button
          class="grid size-[24px] shrink-0 cursor-pointer place-items-center text-faint"
          aria-label="unpin {signal.name} of {device.name}"
          onclick={() => desk.pins.toggle(pin)}><X size={13} aria-hidden="true" /></button
        >
      </li>
    {/each}
  </ul>
{/if}
