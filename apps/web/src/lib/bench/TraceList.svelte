<script lang="ts">
  import LongTable from '$lib/controls/LongTable.svelte';
  import { tableCsv, traceText } from '@fadenkreuz/core';
  import { ageText, clockText } from './benchTexts.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { saveText } from '$lib/controls/saveText.js';
  import Circle from '@lucide/svelte/icons/circle';
  import Square from '@lucide/svelte/icons/square';

  /** What happened on the bench, the newest first. */
  let { device }: { device: string | undefined } = $props();
  const desk = useDesk();

  const recording = $derived(desk.bench?.recording);
  let onlyChosen = $state(false);
  /** Edges of one signal that are listed. */
  const shownLines = 2000;
  const name = (id: string | null) => desk.cell.devices.find((d) => d.id === id)?.name ?? 'bench';
  interface Line {
    key: string;
    at: number;
    device: string;
    what: string;
    text: string;
  }
  let withEdges = $state(true);
  /** What the recorded signals did, packet by packet. */
  const edges: Line[] = $derived.by(() => {
    void desk.images.count;
    if (!withEdges) return [];
    return desk.recorder.picks.flatMap((pick) => {
      const { at, values } = desk.recorder.series(pick);
      const first = Math.max(1, at.length - shownLines);
      return at.slice(first).map((time, i) => ({
        key: `${pick.signal} ${time}`,
        at: time,
        device: pick.device,
        what: pick.direction,
        text: `${pick.direction === 'command' ? '▸' : '◂'} ${pick.name} ${numberText(values[first + i - 1])} → ${numberText(values[first + i])} ${pick.unit}`,
      }));
    });
  });
  const numberText = (value: number | undefined) =>
    value === undefined || Number.isNaN(value) ? '–' : String(Number(value.toPrecision(7)));
  const lines: Line[] = $derived(
    [
      ...desk.trace
        .filter((line) => line.device === device || line.device === null || !onlyChosen)
        .map(({ number, at, device: of, event }) => ({
          ...{ key: String(number), at, device: name(of), what: event.what },
          text: `${event.what === 'injected' ? '⚡ ' : ''}${traceText(event)}`,
        })),
      ...edges.filter((edge) => !onlyChosen || edge.device === name(device ?? null)),
    ].sort((one, other) => one.at - other.at),
  );
  /** Each with the time since the line before, the newest first. */
  const newest = $derived(
    lines
      .map((line, i) => ({ ...line, since: i === 0 ? '' : `+${ageText(line.at - lines[i - 1]!.at)}` }))
      .toReversed(),
  );

  const save = () =>
    saveText(
      `${desk.cell.id}-trace.csv`,
      tableCsv([
        ['time', 'device', 'what', 'text'],
        ...lines.map((l) => [new Date(l.at).toISOString(), l.device, l.what, l.text]),
      ]),
    );
</script>

<div class="mb-2 flex items-center gap-4">
  <label class="flex items-center gap-2">
    <input type="checkbox" class="checkbox checkbox-sm" bind:checked={onlyChosen} />
    only {device ? name(device) : 'the chosen device'}
  </label>
  <label class="flex items-center gap-2" title="signals with a tick in Values">
    <input type="checkbox" class="checkbox checkbox-sm" bind:checked={withEdges} />
    what {desk.recorder.picks.length} recorded signals did
  </label>
  <span class="text-faint"><span class="font-mono">{lines.length}</span> lines</span>
  <button class="btn ml-auto btn-sm" disabled={lines.length === 0} onclick={save}>Save as CSV</button>
  <span class="flex items-center gap-2 border-l border-base-300 pl-4">
    {#if recording}
      <span
        class="text-faint"
        title={recording.forgotten > 0 ? `${recording.forgotten} older ones were given up` : ''}
        ><span class="font-mono">{recording.packets}</span> packets</span
      >
    {/if}
    {#if recording?.running}
      <button class="btn btn-sm" onclick={() => desk.ask('DELETE', '/capture')}
        ><Square size={13} aria-hidden="true" />Stop recording</button
      >
    {:else}
      <button class="btn btn-sm" disabled={!desk.running} onclick={() => desk.ask('POST', '/capture')}
        ><Circle size={13} aria-hidden="true" />Record traffic</button
      >
    {/if}
    {#if recording && recording.packets > 0}
      <a class="btn btn-sm" href="/api/bench/capture" download="{desk.cell.id}.pcapng">Save as pcapng</a>
    {/if}
  </span>
</div>
<LongTable
  label="trace"
  rows={newest}
  columns={[
    { id: 'time', title: 'time', class: 'w-[104px]' },
    { id: 'since', title: 'since', class: 'w-[84px] text-right' },
    { id: 'device', title: 'device', class: 'w-[170px]' },
    { id: 'what', title: 'what happened' },
  ]}
  key={(line) => line.key}
  empty="Nothing has happened yet."
  class="h-[26rem]"
>
  {#snippet cells(line)}
    <td class="font-mono text-xs text-faint">{clockText(line.at)}</td>
    <td class="text-right font-mono text-xs text-faint">{line.since}</td>
    <td class="font-mono break-words">{line.device}</td>
    <td class={[line.what === 'injected' && 'font-semibold']}>{line.text}</td>
  {/snippet}
</LongTable>
