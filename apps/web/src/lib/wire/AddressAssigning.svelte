<script lang="ts">
  import { maskOf, subnetOf } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { WireWatch } from './wire.svelte.js';

  /** Addresses for devices that ask for one: who asks, and which planned device each of them is to be. */
  let { wire }: { wire: WireWatch } = $props();
  const desk = useDesk();

  let minutes = $state(5);
  const giving = $derived(wire.status?.assigning);
  const left = $derived(Math.ceil((giving?.leftMs ?? 0) / 1000));
  const chosenFor = (mac: string) => giving?.assignments.find((g) => g.mac === mac)?.address ?? '';

  const listen = () => wire.give({ minutes, assignments: giving?.assignments ?? [] });
  function choose(mac: string, address: string) {
    const { network } = desk.cell;
    const others = (giving?.assignments ?? []).filter((g) => g.mac !== mac && g.address !== address);
    const mask = maskOf(subnetOf(network, address) ?? network.subnet);
    const gift = { mac, address, mask, gateway: network.gateway };
    void wire.give({ minutes, assignments: address ? [...others, gift] : others });
  }
</script>

<section aria-labelledby="giving-title">
  <h2 id="giving-title" class="font-semibold">Devices that ask for an address</h2>
  <p class="mt-1 text-faint">
    By BOOTP or DHCP. Nobody is answered but the ones that you choose here, and only until the time is over.
  </p>
  <div class="mt-2 flex items-center gap-2">
    {#if giving}
      <span role="status">Listens for <span class="font-mono">{left} s</span> more</span>
      <button class="btn btn-sm" onclick={() => wire.stopAssigning()}>End</button>
    {:else}
      <button class="btn btn-sm" disabled={wire.working !== undefined} onclick={listen}>Listen</button>
      <label class="flex items-center gap-1"
        >for<select class="inplace cursor-pointer" bind:value={minutes}>
          {#each [1, 5, 15, 60] as time (time)}<option value={time}>{time} min</option>{/each}
        </select></label
      >
    {/if}
  </div>
  {#if giving}
    <ul class="mt-2">
      {#each giving.heard as { mac, method, times, given } (mac)}
        <li class="flex flex-wrap items-center gap-x-2 border-b border-base-300 py-1">
          <span class="font-mono whitespace-nowrap">{mac}</span>
          <span class="text-xs whitespace-nowrap text-faint">{method.toUpperCase()} · {times}×</span>
          <select
            class="inplace -ml-1 min-w-0 cursor-pointer"
            aria-label="which device {mac} is"
            value={chosenFor(mac)}
            onchange={(event) => choose(mac, event.currentTarget.value)}
          >
            <option value="">gets nothing</option>
            {#each desk.cell.devices as device (device.id)}<option value={device.address}
                >{device.name}, {device.address}</option
              >{/each}
          </select>
          {#if given}<span class="text-success">✓ given</span>{/if}
        </li>
      {:else}
        <li class="text-faint">Nobody has asked yet.</li>
      {/each}
    </ul>
  {/if}
</section>
