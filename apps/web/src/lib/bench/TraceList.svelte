<script lang="ts">
  import { tableCsv, traceText } from '@fadenkreuz/core';
  import { clockText } from './benchTexts.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { saveText } from '$lib/controls/saveText.js';
  import Circle from '@lucide/svelte/icons/circle';
  import Square from '@lucide/svelte/icons/square';

  /** What happened on the bench, the newest first. */
  let { device }: { device: string | undefined } = $props();
  const desk = useDesk();

  const recording = $derived(desk.bench?.recording);
  let onlyChosen = $state(false);
  const shownLines = 300;
  const name = (id: string | null) => desk.cell.devices.find((d) => d.id === id)?.name ?? 'bench';
  const lines = $derived(
    desk.trace.filter((line) => !onlyChosen || line.device === device || line.device === null),
  );

  const save = () =>
    saveText(
      `${desk.cell.id}-trace.csv`,
      tableCsv([
        ['time', 'device', 'what', 'text'],
        ...lines.map((l) => [new Date(l.at).toISOString(), name(l.device), l.event.what, traceText(l.event)]),
      ]),
    );
</script>

<div class="mb-2 flex items-center gap-4">
  <label class="flex items-center gap-2">
    <input type="checkbox" class="checkbox checkbox-sm" bind:checked={onlyChosen} />
    only {device ? name(device) : 'the chosen device'}
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
<table class="w-full table-fixed border-collapse" aria-label="trace">
  <colgroup><col class="w-[104px]" /><col class="w-[160px]" /><col /></colgroup>
  <tbody>
    {#each lines.toReversed().slice(0, shownLines) as line (line.number)}
      <tr class="border-b border-base-300 align-top [&>td]:py-0.5">
        <td class="font-mono text-xs text-faint">{clockText(line.at)}</td>
        <td class="truncate font-mono">{name(line.device)}</td>
        <td class={[line.event.what === 'injected' && 'font-semibold']}
          >{line.event.what === 'injected' ? '⚡ ' : ''}{traceText(line.event)}</td
        >
      </tr>
    {:else}
      <tr><td colspan="3" class="py-2 text-faint">Nothing has happened yet.</td></tr>
    {/each}
  </tbody>
</table>
