<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import FollowsEntry from '$lib/motion/FollowsEntry.svelte';
  import EncoderStep from '$lib/motion/steps/EncoderStep.svelte';
  import GearStep from '$lib/motion/steps/GearStep.svelte';
  import OutputStep from '$lib/motion/steps/OutputStep.svelte';
  import { editFollows } from '$lib/motion/trainEdits.js';
  import {
    emptyTrain,
    exactRatio,
    followingRoles,
    moduloIncrements,
    ratioText,
    scaleThrough,
    scalingOf,
    type Device,
    type Field,
  } from '@fadenkreuz/core';
  import { untrack } from 'svelte';

  interface Props {
    device: Device;
    field: Field;
    take: (scale: { factor: string; offset: string }) => boolean;
    /** The raw number as it stands there now; undefined: nothing runs. */
    raw: number | undefined;
  }
  /** Where the scale of a field comes from: two known points, or the drive train of its device, which it follows. */
  let { device, field, take, raw }: Props = $props();
  const desk = useDesk();

  const train = $derived(device.train ?? emptyTrain);
  const role = $derived(field.role?.is);
  const can = $derived(role !== undefined && role in followingRoles);
  const follows = $derived(train.follows.some((one) => one.role === role));
  let open = $state(untrack(() => follows));
  let chosen = $state<'points' | 'mechanics' | undefined>();
  const way = $derived(chosen ?? (follows ? 'mechanics' : 'points'));
  let a = $state({ raw: '', value: '' });
  let b = $state({ raw: '', value: '' });

  const scaling = $derived(scalingOf(train));
  const points = $derived(
    [a.raw, b.raw].every((text) => /^-?\d+$/.test(text)) &&
      [a.value, b.value].every((text) => exactRatio(text))
      ? scaleThrough({ raw: Number(a.raw), value: a.value }, { raw: Number(b.raw), value: b.value })
      : undefined,
  );
  const shown = (value: { valueOf: () => number }) => String(Number(value.valueOf().toPrecision(8)));

  function takePoints() {
    if (points) take({ factor: ratioText(points.factor), offset: ratioText(points.offset) });
  }
  function typed(point: { raw: string; value: string }, key: 'raw' | 'value') {
    return (text: string) => {
      const value = text.trim().replace(',', '.');
      if (exactRatio(value) === undefined) {
        desk.note = { says: `${text} is no number.`, cure: 'Type a number such as 10, 0.5 or 1/3.' };
        return false;
      }
      point[key] = value;
      return true;
    };
  }
</script>

<details class="mt-1" bind:open>
  <summary class="cursor-pointer text-faint"
    >{follows ? 'The scale follows the drive train' : 'Work the scale out'}</summary
  >
  <span class="segment my-1" role="group" aria-label="how the scale is worked out">
    <button aria-pressed={way === 'points'} onclick={() => (chosen = 'points')}>two points</button>
    <button aria-pressed={way === 'mechanics'} onclick={() => (chosen = 'mechanics')}>mechanics</button>
  </span>
  {#if way === 'points'}
    {#each [['first', a], ['second', b]] as const as [name, point] (name)}
      <div class="flex items-end gap-1">
        <div class="min-w-0 grow">
          <LensEntry
            title="{name}, raw"
            class="w-20 font-mono"
            value={point.raw}
            take={typed(point, 'raw')}
          />
          <LensEntry
            title="{name}, value"
            class="w-20 font-mono"
            value={point.value}
            take={typed(point, 'value')}
          />
        </div>
        <button
          class="btn btn-xs"
          disabled={raw === undefined}
          title="the raw number as it is now"
          onclick={() => (point.raw = String(raw))}>now</button
        >
      </div>
    {/each}
    {#if points}
      <p class="text-xs text-faint">
        factor <span class="font-mono">{ratioText(points.factor)}</span>, offset
        <span class="font-mono">{ratioText(points.offset)}</span>
      </p>
    {/if}
    {#if follows}
      <p class="text-xs text-error">▲ The field follows the drive train: let it go first.</p>
    {/if}
    <button class="btn mt-1 btn-sm" disabled={!points || follows} onclick={takePoints}>Take this scale</button
    >
  {:else if !can}
    <p class="text-sm text-faint">
      Give the field a role first, such as position actual, velocity or speed reference: then it follows the
      drive train of {device.name}.
    </p>
  {:else}
    <p class="text-xs text-faint">
      Mechanics of {device.name}, for all of its fields;
      <a class="link" href="/cells/{desk.cell.id}/motion">Motion</a> has the whole drive train.
    </p>
    <label class="lens-row"
      >it follows the drive train <input
        type="checkbox"
        class="checkbox rounded-sm checkbox-xs"
        checked={follows}
        onchange={(event) => editFollows(desk, device, train, role!, event.currentTarget.checked ? {} : null)}
      /></label
    >
    <div class="flex justify-end gap-1">
      <FollowsEntry {device} {train} role={role!} name={field.name} />
    </div>
    <EncoderStep {device} {train} />
    <GearStep {device} {train} />
    <OutputStep {device} {train} />
    {#if scaling}
      {@const { unit, perIncrement, perRevolution, range } = scaling}
      <p class="text-xs text-faint">
        {#if train.encoder}An increment is
          <span class="font-mono">{shown(perIncrement)} {unit}</span>; 32 bits reach
          <span class="font-mono">±{shown(range.greatest)} {unit}</span>.{/if}
        A revolution of the motor is <span class="font-mono">{shown(perRevolution)} {unit}</span>.
        {#if train.modulo && moduloIncrements(train.modulo, scaling).d !== 1n}
          <span class="text-error">▲ {train.modulo} are no whole number of increments: it drifts.</span>
        {/if}
      </p>
    {/if}
  {/if}
</details>
