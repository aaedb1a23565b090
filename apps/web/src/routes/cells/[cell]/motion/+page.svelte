<script lang="ts">
  import { page } from '$app/state';
  import { replaceState } from '$app/navigation';
  import ArmLine from '$lib/bench/ArmLine.svelte';
  import { oneOf } from '$lib/controls/oneOf.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import View from '$lib/frame/View.svelte';
  import ByHand from '$lib/motion/ByHand.svelte';
  import DriveSettings from '$lib/motion/DriveSettings.svelte';
  import FollowingFields from '$lib/motion/FollowingFields.svelte';
  import MovesTable from '$lib/motion/MovesTable.svelte';
  import TorqueChart from '$lib/motion/TorqueChart.svelte';
  import TrainFigures from '$lib/motion/TrainFigures.svelte';
  import TrainLine from '$lib/motion/TrainLine.svelte';
  import TrainStep from '$lib/motion/TrainStep.svelte';
  import { emptyTrain, figuresOf, manualWayOf, type StartUpStep } from '@fadenkreuz/core';

  const desk = useDesk();
  const parts = ['train', 'fields', 'drive', 'hand'] as const;
  const titles = {
    train: 'Drive train',
    fields: 'Units of the fields',
    drive: 'For the drive',
    hand: 'By hand',
  } as const;
  let part = $state<(typeof parts)[number]>(oneOf(parts, page.url.searchParams.get('part') ?? '') ?? 'train');
  let step = $state<StartUpStep>('motor');

  const moving = $derived(
    desk.cell.devices.filter(
      (d) => d.train !== null || d.kind === 'servo axis' || d.kind.endsWith('drive') || manualWayOf(d),
    ),
  );
  const device = $derived(moving.find((d) => d.id === desk.chosen?.id) ?? moving[0]);
  const train = $derived(device?.train ?? emptyTrain);
  const fields = $derived(device?.links.flatMap((l) => [...l.command.fields, ...l.feedback.fields]) ?? []);
  const figures = $derived(figuresOf(train, fields));
  const unit = $derived(train.output?.is === 'table' ? '°' : 'mm');

  function turnTo(to: (typeof parts)[number]) {
    part = to;
    replaceState(`?part=${to}`, {});
  }
  $effect(() => {
    desk.live.show('moved', part === 'train' ? [] : (device?.links.map(({ id }) => id) ?? []));
    return () => desk.live.show('moved', []);
  });
</script>

<View lensTitle="Motion">
  {#snippet main()}
    <div class="mb-2 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Motion</h1>
      <span class="segment" role="group" aria-label="part of motion">
        {#each parts as one (one)}
          <button aria-pressed={part === one} onclick={() => turnTo(one)}>{titles[one]}</button>
        {/each}
      </span>
      <span class="ml-auto"></span>
      {#if part === 'hand'}<ArmLine />{/if}
    </div>
    {#if !device}
      <p class="text-faint">No device of this cell moves anything: add a drive or an axis on the Line-up.</p>
    {:else}
      <div class="mb-3 flex flex-wrap gap-2" role="group" aria-label="device that moves">
        {#each moving as { id, name } (id)}
          <button
            class={[
              'rounded-box border px-2.5 py-1 font-mono',
              id === device.id ? 'border-base-content bg-base-100 font-semibold' : 'border-base-300',
            ]}
            aria-pressed={id === device.id}
            onclick={() => desk.choose(id)}>{name}</button
          >
        {/each}
      </div>
      {#if part === 'train'}
        <TrainLine {train} chosen={step} onchoose={(to) => (step = to)} />
        <div class="mt-3"><MovesTable {device} {train} {unit} /></div>
        {#if figures && train.moves.length > 0}
          <div class="mt-3"><TorqueChart {train} {figures} {unit} /></div>
        {/if}
        <div class="mt-3"><TrainFigures {device} {train} {figures} /></div>
      {:else if part === 'fields'}
        <FollowingFields {device} {train} />
      {:else if part === 'drive'}
        <DriveSettings {device} {train} />
      {:else}
        {#key device.id}<ByHand {device} />{/key}
      {/if}
    {/if}
  {/snippet}
  {#snippet lens()}
    {#if device}
      <p class="font-mono text-lg font-semibold">{device.name}</p>
      <p class="mb-2 text-sm text-faint">{device.kind}{device.serves ? `, ${device.serves}` : ''}</p>
      {@const shown = part === 'hand' ? 'moves' : step}
      {#key `${device.id} ${shown}`}<TrainStep {device} {train} step={shown} />{/key}
    {/if}
  {/snippet}
</View>
