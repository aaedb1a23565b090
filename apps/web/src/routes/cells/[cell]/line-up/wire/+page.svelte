<script lang="ts">
  import AddressAssigning from '$lib/wire/AddressAssigning.svelte';
  import LineUpLinks from '$lib/line-up/LineUpLinks.svelte';
  import ScanLens from '$lib/wire/ScanLens.svelte';
  import ScanTable from '$lib/wire/ScanTable.svelte';
  import ThisComputer from '$lib/wire/ThisComputer.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { WireWatch } from '$lib/wire/wire.svelte.js';
  import { nameplateEdit, protocols, type Compared } from '@fadenkreuz/core';
  import { page } from '$app/state';
  import { onMount, untrack } from 'svelte';

  /** In which protocols a scan asks. */
  const asked = protocols
    .filter(({ scan }) => scan.answers)
    .map(({ title }) => title)
    .join(' and by ');
  const desk = useDesk();
  const wire = new WireWatch(desk);
  onMount(() => {
    if (page.url.searchParams.has('scan')) void rescan();
    return wire.watch();
  });

  /** Where planned devices stand, and where they leave the factory. */
  const usualRanges = () => {
    const { subnet, further } = desk.cell.network;
    const factory = desk.cell.devices.flatMap((d) => d.factoryAddress ?? []);
    return [...new Set([subnet, ...further, ...factory])].join(', ');
  };
  let ranges = $state(untrack(usualRanges));
  /** A line of no planned device that was chosen, by what it says. */
  let stranger = $state('');
  /** Lines that somebody has seen and left be, by what they say. */
  let ignored = $state.raw<ReadonlySet<string>>(new Set());

  const keyOf = (line: Compared) => `${line.device ?? ''} ${line.finding.says}`;
  const lines = $derived(wire.lines.filter((line) => !ignored.has(keyOf(line))));
  const line = $derived(
    lines.find((l) => keyOf(l) === stranger) ??
      lines.find((l) => l.device !== undefined && l.device === desk.chosen?.id) ??
      lines[0],
  );
  function choose(i: number) {
    const next = lines[i];
    stranger = next && next.device === undefined ? keyOf(next) : '';
    if (next?.device !== undefined) desk.choose(next.device);
  }
  const scan = $derived(wire.status?.scan);
  const right = $derived(lines.filter((l) => l.verdict === 'right').length);
  const notAsked = $derived(lines.filter((l) => l.verdict === 'not-asked').length);
  const notPlanned = $derived(lines.filter((l) => l.verdict === 'not-planned').length);
  /** Planned devices that nothing was found of. */
  const missing = $derived(
    new Set(
      scan && !scan.running ? lines.flatMap((l) => (l.verdict === 'missing' ? (l.device ?? []) : [])) : [],
    ),
  );
  /** Nameplates on the wire that the plan does not have. */
  const nameplates = $derived(
    lines.flatMap((l) => {
      const device = desk.cell.devices.find((d) => d.id === l.device);
      const [found] = l.found;
      const known = l.verdict === 'right' || l.verdict === 'asks';
      const edit = device && found && known ? nameplateEdit(device, found) : undefined;
      return edit ? [edit] : [];
    }),
  );

  function start(event: SubmitEvent) {
    event.preventDefault();
    ignored = new Set();
    stranger = '';
    const list = ranges.split(',').map((r) => r.trim());
    void wire.scan(list.filter(Boolean));
  }
  const rescan = () => wire.scan(ranges.split(',').flatMap((r) => r.trim() || []));
</script>

<View lensTitle="Found and planned">
  {#snippet main()}
    <div class="mb-3 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Line-up</h1>
      <LineUpLinks here="/wire" />
      {#if scan && !scan.running && lines.length > 0}
        <span class="ml-auto" role="status">
          <span class="font-mono">{right}</span> of
          <span class="font-mono">{desk.cell.devices.length}</span>
          right{#if notAsked}, <span class="font-mono">{notAsked}</span> not asked{/if}{#if notPlanned},
            <span class="font-mono">{notPlanned}</span> not planned{/if}
        </span>
      {/if}
    </div>
    <form class="mb-3 flex items-center gap-2" onsubmit={start}>
      <label class="flex min-w-0 flex-1 items-center gap-2"
        >look at<textarea
          class="inplace [field-sizing:content] min-w-0 flex-1 resize-none border-base-300 font-mono"
          rows="1"
          bind:value={ranges}
          title="subnets, ranges and single addresses, separated by commas"
          required
          onkeydown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            event.currentTarget.form?.requestSubmit();
          }}></textarea></label
      >
      {#if scan?.running}
        <progress class="progress w-24" value={scan.asked} max={scan.toAsk} aria-label="asked"></progress>
        <button class="btn btn-sm" type="button" onclick={() => wire.stopScan()}>Stop</button>
      {:else}
        <button class="btn btn-primary btn-sm" type="submit" disabled={wire.working !== undefined}
          >Scan</button
        >
      {/if}
    </form>

    {#if !desk.running && !wire.status?.reach.length}
      <p class="mb-3 border-l-[3px] border-base-content pl-3">
        The bench is stopped, so no stand-in answers.
        <a class="underline" href="/cells/{desk.cell.id}/bench">Start it</a> first.
      </p>
    {/if}
    {#if scan}
      <ScanTable {lines} running={scan.running} chosen={line} onchoose={choose} />
      {#if nameplates.length > 0 && !scan.running}
        <button class="btn mt-3 btn-sm" onclick={() => nameplates.forEach((edit) => desk.edit(edit))}
          >Take {nameplates.length}
          {nameplates.length === 1 ? 'nameplate' : 'nameplates'} into the plan</button
        >
      {/if}
    {:else}
      <p class="max-w-prose text-faint">
        A scan asks every address for its identity, by {asked}, and compares what answers with the plan. On
        this computer it finds the stand-ins of the bench{wire.status?.reach.length
          ? `, and real devices in ${wire.status.reach.join(', ')}`
          : ''}.
      </p>
    {/if}

    <div class="mt-8 grid grid-cols-2 gap-8">
      <AddressAssigning {wire} {missing} />
      <ThisComputer adapters={wire.status?.adapters ?? []} reach={wire.status?.reach ?? []} />
    </div>
  {/snippet}
  {#snippet lens()}
    {#if line}
      {#key keyOf(line)}
        <ScanLens
          {line}
          {wire}
          onignore={() => (ignored = new Set([...ignored, keyOf(line)]))}
          onrepaired={rescan}
        />
      {/key}
    {:else}
      <h2 class="text-lg font-semibold">Found and planned</h2>
      <p class="text-faint">Scan, then choose a line.</p>
    {/if}
  {/snippet}
</View>
