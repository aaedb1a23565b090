<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import LinkStateMark from './LinkStateMark.svelte';

  let { chosen, onchoose }: { chosen: string | undefined; onchoose: (id: string) => void } = $props();
  const desk = useDesk();

  const ms = (value: number | undefined) => (value === undefined ? '–' : value.toFixed(1));
</script>

<table class="w-full border-collapse">
  <thead>
    <tr
      class="border-b border-base-content/60 text-left text-xs text-faint [&>th]:px-2 [&>th]:py-1.5 [&>th]:font-medium"
    >
      <th>device</th>
      <th>state</th>
      <th class="text-right">last packet, ms</th>
      <th class="text-right">sent</th>
      <th class="text-right">received</th>
      <th class="text-right">lost</th>
      <th class="text-right">interval p50 · p99, ms</th>
      <th class="text-right">timeouts</th>
      <th class="text-right">opened again</th>
    </tr>
  </thead>
  <tbody>
    {#each desk.cell.devices as device (device.id)}
      {@const status = desk.linkStatus(device.id)}
      {@const counted = status && status.state !== 'no-stand-in'}
      <tr
        class={[
          'cursor-pointer border-b border-base-300 font-mono [&>td]:px-2 [&>td]:py-1.5',
          chosen === device.id ? 'bg-base-100' : 'hover:bg-base-100/60',
        ]}
        onclick={() => onchoose(device.id)}
        aria-selected={chosen === device.id}
      >
        <td class="font-semibold"
          ><button class="cursor-pointer" onclick={() => onchoose(device.id)}>{device.name}</button></td
        >
        <td class="font-sans"><LinkStateMark {status} hasStandIn={device.standIn !== null} /></td>
        <td class="text-right">{counted && status.ageMs !== null ? Math.round(status.ageMs) : '–'}</td>
        <td class="text-right">{counted ? status.sent : '–'}</td>
        <td class="text-right">{counted ? status.received : '–'}</td>
        <td class="text-right">{counted ? status.lost : '–'}</td>
        <td class="text-right"
          >{counted ? `${ms(status.intervals?.p50)} · ${ms(status.intervals?.p99)}` : '–'}</td
        >
        <td class="text-right">{counted ? status.timeouts : '–'}</td>
        <td class="text-right">{counted ? status.reconnects : '–'}</td>
      </tr>
      {#if counted && status.reason}
        <tr class="border-b border-base-300 bg-base-100">
          <td colspan="9" class="px-2 py-1.5">
            <span class="text-error">▲ {status.reason.says}</span>
            <span class="text-faint">{status.reason.cure}</span>
          </td>
        </tr>
      {/if}
    {/each}
  </tbody>
</table>
