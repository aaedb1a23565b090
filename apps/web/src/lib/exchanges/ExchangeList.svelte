<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { devicesOf, type Exchange } from '@fadenkreuz/core';

  /** The exchanges of the cell, each with its devices and how its last run ended. */
  let { chosen, onchoose }: { chosen: string | undefined; onchoose: (id: string) => void } = $props();
  const desk = useDesk();

  const names = (exchange: Exchange) =>
    devicesOf(exchange).map((id) => desk.cell.devices.find((d) => d.id === id)?.name ?? 'gone');
  function stateOf(exchange: Exchange): { text: string; bad: boolean } {
    const status = desk.bench?.exchanges.find((e) => e.exchange === exchange.id);
    if (!status || !desk.running) return { text: '', bad: false };
    const step = status.step === null ? '' : (exchange.steps[status.step]?.title ?? '');
    if (status.state === 'running')
      return { text: `▶ ${step}${status.times > 1 ? `, ${status.run} of ${status.times}` : ''}`, bad: false };
    if (status.state === 'failed') return { text: `✗ ${status.failure?.reason ?? 'failed'}`, bad: true };
    return { text: status.state === 'done' ? '✓ done' : '◼ stopped', bad: false };
  }
  const wrong = (exchange: Exchange) =>
    desk.findings.filter((f) => f.place.exchange === exchange.id && f.severity !== 'notice').length;
</script>

<table class="w-full table-fixed border-collapse">
  <colgroup><col class="w-[38%]" /><col class="w-[26%]" /><col class="w-[56px]" /><col /></colgroup>
  <thead>
    <tr class="border-b border-base-content/60 text-left text-xs text-faint">
      <th class="py-1 font-medium">exchange</th>
      <th class="font-medium">devices</th>
      <th class="pr-3 text-right font-medium">steps</th>
      <th class="font-medium">last run</th>
    </tr>
  </thead>
  <tbody>
    {#each desk.cell.exchanges as exchange (exchange.id)}
      {@const { text, bad } = stateOf(exchange)}
      {@const findings = wrong(exchange)}
      <tr
        class={[
          'cursor-pointer border-b border-base-300 align-top',
          chosen === exchange.id ? 'bg-base-100 [&>td:first-child]:border-l-3' : 'hover:bg-base-100/60',
        ]}
        aria-selected={chosen === exchange.id}
        onclick={() => onchoose(exchange.id)}
      >
        <td class="py-1 pl-1.5 font-semibold wrap-anywhere"
          ><button class="cursor-pointer text-left" onclick={() => onchoose(exchange.id)}
            >{exchange.name}</button
          >
          {#if findings}<span title="{findings} findings" class="font-mono text-error">△{findings}</span
            >{/if}</td
        >
        <td class="py-1 font-mono wrap-anywhere">{names(exchange).join(', ')}</td>
        <td class="py-1 pr-3 text-right font-mono">{exchange.steps.length}</td>
        <td class={['py-1 wrap-anywhere', bad && 'text-error']}>{text}</td>
      </tr>
    {/each}
  </tbody>
</table>
