<script lang="ts">
  import { kindOfText, maskOf, subnetOf, type Device } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { WireWatch } from './wire.svelte.js';

  /** Addresses for devices that ask for one: who asks, and which planned device each of them is to be. */
  interface Props {
    wire: WireWatch;
    /** Ids of planned devices that the last scan did not find. */
    missing: ReadonlySet<string>;
  }
  let { wire, missing }: Props = $props();
  const desk = useDesk();

  let minutes = $state(5);
  const giving = $derived(wire.status?.assigning);
  const left = $derived(Math.ceil((giving?.leftMs ?? 0) / 1000));
  const chosenFor = (mac: string) => giving?.assignments.find((g) => g.mac === mac)?.address ?? '';

  type Heard = NonNullable<typeof giving>['heard'][number];
  const byMac = (mac: string) => desk.cell.devices.find((d) => d.mac === mac);
  /** What is known of one that asks: its maker by its MAC address or by a planned one of the same block, its kind. */
  function known({ mac, maker, says }: Heard): string {
    const same = desk.cell.devices.find((d) => d.maker && d.mac?.slice(0, 8) === mac.slice(0, 8));
    const product = says && desk.cell.devices.find((d) => d.identity.productName === says);
    const kind = product ? product.kind : kindOfText(says);
    return [maker ?? (product ? product.maker : same?.maker), kind, says].filter(Boolean).join(' · ');
  }
  /** Planned devices in the order in which they are likely to be the one that asks. */
  const groups = $derived(
    (
      [
        ['missing in the scan', (d: Device) => missing.has(d.id)],
        [missing.size > 0 ? 'found already' : 'planned', (d: Device) => !missing.has(d.id)],
      ] as const
    ).map(([title, of]) => ({ title, devices: desk.cell.devices.filter(of) })),
  );

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
      {#each giving.heard as heard (heard.mac)}
        {@const { mac, method, times, given } = heard}
        <li class="flex flex-wrap items-center gap-x-2 border-b border-base-300 py-1">
          <span class="font-mono whitespace-nowrap">{mac}</span>
          <span class="text-xs whitespace-nowrap text-faint">{method.toUpperCase()} · {times}×</span>
          {#if byMac(mac)}<span>is <span class="font-mono">{byMac(mac)?.name}</span> by its MAC address</span>
          {:else if known(heard)}<span class="break-words">{known(heard)}</span>{/if}
          <select
            class="inplace -ml-1 min-w-0 cursor-pointer"
            aria-label="which device {mac} is"
            value={chosenFor(mac)}
            onchange={(event) => choose(mac, event.currentTarget.value)}
          >
            <option value="">gets nothing</option>
            {#each groups.filter((g) => g.devices.length > 0) as { title, devices } (title)}
              <optgroup label={title}>
                {#each devices as device (device.id)}<option value={device.address}
                    >{device.name}, {device.address}</option
                  >{/each}
              </optgroup>
            {/each}
          </select>
          {#if given}<span class="text-success">✓ given</span>{/if}
        </li>
      {:else}
        <li class="text-faint">Nobody has asked yet.</li>
      {/each}
    </ul>
  {/if}
</section>
