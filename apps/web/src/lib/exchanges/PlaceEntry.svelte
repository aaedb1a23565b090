<script lang="ts">
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { ExchangePlace } from '@fadenkreuz/core';
  import { keyOfPlace, placeChoices } from './placeChoices.js';

  interface Props {
    place: ExchangePlace;
    label: string;
    take: (place: ExchangePlace) => void;
  }
  /** Chooses a value of a device: the device, then the value by its role or its field. */
  let { place, label, take }: Props = $props();
  const desk = useDesk();

  const device = $derived(desk.cell.devices.find((d) => d.id === place.device));
  const choices = $derived(device ? placeChoices(device, place.side) : []);
  const key = $derived(keyOfPlace(place));

  function move(id: string) {
    const to = desk.cell.devices.find((d) => d.id === id)!;
    const own = placeChoices(to, place.side);
    const same = own.find((c) => c.key === key) ?? own[0];
    if (same) take({ device: id, ...same.place });
  }
</script>

<span class="flex min-w-0 flex-col">
  <LongSelect
    class="w-full min-w-0 justify-between font-mono"
    text={device?.name ?? 'a device that is gone'}
    aria-label="device of {label}"
    value={place.device}
    onchange={(event) => move(event.currentTarget.value)}
  >
    {#if !device}<option value={place.device}>a device that is gone</option>{/if}
    {#each desk.cell.devices as { id, name } (id)}<option value={id}>{name}</option>{/each}
  </LongSelect>
  <LongSelect
    class={['w-full min-w-0 justify-between', place.side === 'command' ? 'text-command' : 'text-feedback']}
    text={choices.find((c) => c.key === key)?.title ?? '– not there –'}
    aria-label="value of {label}"
    value={key}
    onchange={(event) => {
      const chosen = choices.find((c) => c.key === event.currentTarget.value);
      if (chosen) take({ device: place.device, ...chosen.place });
    }}
  >
    {#if !choices.some((c) => c.key === key)}<option value={key}>– not there –</option>{/if}
    {#each choices as choice (choice.key)}<option value={choice.key}>{choice.title}</option>{/each}
  </LongSelect>
</span>
