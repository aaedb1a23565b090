<script lang="ts">
  import { allImages, codecOf } from '@fadenkreuz/core';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { dragHandle, dragHandleZone, type DndEvent } from 'svelte-dnd-action';
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
      return [
        { id: pin.signal, pin, device, image, link, status, signal, reading: readingsOf(image, bytes)?.[at] },
      ];
    });
  });
  type Pinned = (typeof pinned)[number];
  /** Their order while one is dragged. */
  let dragged = $state.raw<readonly string[] | undefined>();
  const rows = $derived(
    dragged ? dragged.flatMap((id) => pinned.find((p) => p.id === id) ?? []) : [...pinned],
  );
  const idsOf = ({ items }: DndEvent<Pinned>) => items.map(({ id }) => id);
  function drop({ detail }: CustomEvent<DndEvent<Pinned>>) {
    dragged = undefined;
    desk.pins.reorder(idsOf(detail));
  }
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
    use:dragHandleZone={{
      items: rows,
      flipDurationMs: 0,
      dropTargetStyle: {},
      zoneTabIndex: -1,
      autoAriaDisabled: true,
    }}
    onconsider={({ detail }: CustomEvent<DndEvent<Pinned>>) => (dragged = idsOf(detail))}
    onfinalize={drop}
  >
    {#each rows as { pin, device, image, status, signal, reading, id } (id)}
      <li class="flex min-h-8 items-center gap-2 border-b border-base-300 font-mono">
        <span
          class="grid size-[24px] shrink-0 place-items-center text-faint"
          use:dragHandle
          aria-label="drag {signal.name} to another place">⋮</span
        >
        <button
          class="min-h-[24px] min-w-0 cursor-pointer text-left text-xs wrap-anywhere text-faint"
          title={device.name}
          aria-label="show {device.name}"
          onclick={() => desk.choose(device.id)}>{device.name}</button
        >
        <span
          class={['min-w-0 wrap-anywhere', image.direction === 'command' ? 'text-command' : 'text-feedback']}
          >{image.direction === 'command' ? '▸' : '◂'}</span
        >
        <span class="min-w-0 wrap-anywhere" title={signal.name}>{signal.name}</span>
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
        <RemoveButton label="unpin {signal.name} of {device.name}" onclick={() => desk.pins.toggle(pin)} />
      </li>
    {/each}
  </ul>
{/if}
