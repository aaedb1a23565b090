<script lang="ts">
  import LineUpLinks from '$lib/line-up/LineUpLinks.svelte';
  import NamingForm from '$lib/line-up/NamingForm.svelte';
  import { namesOnTheWire } from '$lib/line-up/protocols/list.js';
  import NetworkPlan from '$lib/line-up/NetworkPlan.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { addressNumber, maskOf, serialText, subnetOf } from '@fadenkreuz/core';

  const desk = useDesk();
  const { subnet, gateway } = $derived(desk.cell.network);
  /** What devices of this cell go by beside their addresses. */
  const names = $derived(namesOnTheWire(desk.cell.devices.flatMap(({ links }) => links)));
  /** The controller and its devices in the order of their addresses. */
  const rows = $derived(
    [
      { ...desk.cell.controller, id: '', mac: '', serialNumber: null, names },
      ...desk.cell.devices.map((device) => ({ ...device, names: namesOnTheWire(device.links) })),
    ].sort((a, b) => addressNumber(a.address) - addressNumber(b.address)),
  );
  const wrong = (id: string) =>
    desk.findings.find((f) => f.place.device === id && f.code.startsWith('address.'));
</script>

<View lensTitle="Address plan">
  {#snippet main()}
    <div class="mb-3 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Line-up</h1>
      <span class="contents print:hidden"><LineUpLinks here="/addresses" /></span>
      <span class="hidden print:inline">{desk.cell.name}, addresses</span>
      <button class="btn ml-auto btn-sm print:hidden" onclick={() => window.print()}>Print</button>
    </div>
    <p class="mb-2 text-faint">
      mask <span class="font-mono">{maskOf(subnet)}</span>, gateway
      <span class="font-mono">{gateway ?? 'none'}</span>. MAC and serial numbers come from the wire.
    </p>
    <table class="w-full border-collapse text-[13px]">
      <thead>
        <tr class="border-b border-base-content/60 text-left text-xs text-faint">
          <th class="py-1.5 pl-1 font-medium">address</th>
          <th class="font-medium">name</th>
          <th class="font-medium">designation</th>
          {#each names as { title, says } (title)}<th class="font-medium" title={says}>{title}</th>{/each}
          <th class="font-medium">MAC</th>
          <th class="font-medium">serial number</th>
        </tr>
      </thead>
      <tbody>
        {#each rows as row (row.id)}
          {@const finding = wrong(row.id)}
          <tr class="border-b border-base-300">
            <td class="py-1.5 pl-1 font-mono whitespace-nowrap" title={finding?.says}
              >{row.address}{subnetOf(desk.cell.network, row.address) === subnet
                ? ''
                : ` (${subnetOf(desk.cell.network, row.address) ?? 'no subnet'})`}{#if finding}<span
                  class="ml-1 text-error">△</span
                >{/if}</td
            >
            <td class="font-mono font-semibold">{row.name}</td>
            <td class="font-mono">{row.designation}</td>
            {#each names as name (name.title)}
              <td class="font-mono">{row.names.includes(name) ? name.of(row.name) : ''}</td>
            {/each}
            <td class="font-mono">{row.mac}</td>
            <td class="font-mono">{row.serialNumber === null ? '' : serialText(row.serialNumber)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/snippet}
  {#snippet lens()}
    <NetworkPlan />
    <NamingForm />
  {/snippet}
</View>
