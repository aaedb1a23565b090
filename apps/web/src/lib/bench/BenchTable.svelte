<script lang="ts">
  import { identityStatusText } from '@fadenkreuz/core';
  import type { LinkStatus } from '@fadenkreuz/field/agent-api';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { ageText } from './benchTexts.js';
  import StopMark from '$lib/beam/StopMark.svelte';
  import LinkStateMark from './LinkStateMark.svelte';

  let { chosen, onchoose }: { chosen: string | undefined; onchoose: (id: string) => void } = $props();
  const desk = useDesk();

  const ms = (value: number | null | undefined) => (value == null ? '–' : value.toFixed(1));
  /** How far one interval in a hundred lies from what was agreed. */
  const jitter = ({ intervals, expectedMs }: LinkStatus) =>
    intervals && expectedMs ? ms(Math.abs(intervals.p99 - expectedMs)) : '–';
  const loss = ({ lost, late, received }: LinkStatus) => {
    const share = Math.max(0, lost - late) / Math.max(1, received + lost - late);
    return share === 0 ? '0' : `${(share * 100).toFixed(share < 0.1 ? 2 : 1)} %`;
  };

  /** Owned by a controller, a connection runs (CIP Vol. 1, table 5-2.4; from memory). */
  const isUsual = (word: number) => (word & 0xff) === 0x61;

  /** The most telling thing that is known of a link. */
  function last(status: LinkStatus): { text: string; bad: boolean } {
    const [cause] = status.causes;
    if (cause) return { text: cause.title, bad: true };
    if (status.reason) return { text: status.reason.says, bad: status.state !== 'open' };
    const { probe } = status;
    // What every device in order says is said by none.
    if (probe?.identityStatus != null && !isUsual(probe.identityStatus))
      return { text: identityStatusText(probe.identityStatus), bad: false };
    return { text: probe?.answerMs != null ? `answers in ${ms(probe.answerMs)} ms` : '', bad: false };
  }
</script>

<table class="w-full table-fixed border-collapse">
  <colgroup>
    <col class="w-[162px]" /><col class="w-[104px]" /><col class="w-[68px]" /><col class="w-[74px]" />
    <col class="w-[72px]" /><col class="w-[64px]" /><col class="w-[72px]" /><col />
  </colgroup>
  <thead>
    <tr
      class="border-b border-base-content/60 text-left align-bottom text-xs text-faint [&>th]:px-1.5 [&>th]:py-1 [&>th]:font-medium"
    >
      <th>device</th>
      <th>state</th>
      <th class="text-right">agreed, ms</th>
      <th class="text-right" title="median of the last minute">measured, ms</th>
      <th
        class="text-right"
        title="how far one interval in a hundred lay from what was agreed, in the last minute"
        >jitter 99 %, ms</th
      >
      <th class="text-right" title="since the bench was started">lost</th>
      <th class="text-right">last packet</th>
      <th class="pl-3!">last status</th>
    </tr>
  </thead>
  <tbody>
    {#each desk.cell.devices as device (device.id)}
      {@const status = desk.linkStatus(device.id)}
      {@const counted = status && status.state !== 'no-stand-in' ? status : undefined}
      {@const standing = counted?.state === 'open' ? counted : undefined}
      {@const say = counted ? last(counted) : undefined}
      <tr
        class={[
          'cursor-pointer border-b border-base-300 font-mono [&>td]:px-1.5 [&>td]:py-[3px] [&>td]:whitespace-nowrap',
          chosen === device.id ? 'bg-base-100 [&>td:first-child]:border-l-3' : 'hover:bg-base-100/60',
        ]}
        onclick={() => onchoose(device.id)}
        aria-selected={chosen === device.id}
      >
        <td class="min-w-0 font-semibold wrap-anywhere whitespace-normal!"
          ><button class="cursor-pointer text-left" onclick={() => onchoose(device.id)}>{device.name}</button
          ></td
        >
        <td class="font-sans"><LinkStateMark {status} /></td>
        <td class="text-right">{counted ? ms(counted.expectedMs) : '–'}</td>
        <td class="text-right">{standing ? ms(standing.intervals?.p50) : '–'}</td>
        <td class="text-right">{standing ? jitter(standing) : '–'}</td>
        <td class="text-right" title={counted ? `${counted.lost} missing, ${counted.late} late` : ''}
          >{counted ? loss(counted) : '–'}</td
        >
        <td class="text-right">{counted ? ageText(counted.ageMs) : '–'}</td>
        <td
          class={['min-w-0 pl-3! font-sans wrap-anywhere whitespace-normal!', say?.bad && 'text-error']}
          title={say?.text}
        >
          {#if counted && counted.faults.length > 0}<span title="a fault is injected">⚡</span>{/if}
          {#if standing?.stops && !say?.bad}<StopMark stops={standing.stops} />{:else}{say?.bad
              ? '▲ '
              : ''}{say?.text ?? ''}{/if}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
