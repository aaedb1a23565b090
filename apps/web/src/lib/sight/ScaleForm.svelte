<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    exactRatio,
    moduloIncrements,
    ratioText,
    scaleThrough,
    unitScaling,
    type MotionOutput,
    type UnitScaling,
  } from '@fadenkreuz/core';

  interface Props {
    /** Takes a scale with its unit. */
    take: (scale: { factor: string; offset: string }, unit: string | undefined) => boolean;
    /** The raw number as it stands there now; undefined: nothing runs. */
    raw: number | undefined;
    /** It is a speed: mm/s and not mm. */
    speed: boolean;
  }
  /** Works the scale of a field out: of two known points, or of the mechanics that the axis drives. */
  let { take, raw, speed }: Props = $props();
  const desk = useDesk();

  let way = $state<'points' | 'mechanics'>('points');
  let a = $state({ raw: '', value: '' });
  let b = $state({ raw: '', value: '' });
  let increments = $state('10000');
  let motor = $state('1');
  let shaft = $state('1');
  let is = $state<MotionOutput['is']>('screw');
  let sizes = $state({ lead: '10', teeth: '20', pitch: '5', module: '2', diameter: '100' });
  let reversed = $state(false);
  let perSecond = $state<'increments' | 'rpm'>('increments');

  const positive = (text: string) =>
    exactRatio(text) !== undefined && !text.startsWith('-') && Number(text) !== 0;
  const scaling = $derived.by((): UnitScaling | undefined => {
    const needed = {
      screw: ['lead'],
      belt: ['teeth', 'pitch'],
      rack: ['teeth', 'module'],
      pulley: ['diameter'],
      drum: ['diameter'],
      table: [],
    }[is];
    const entries = [increments, motor, shaft, ...needed.map((key) => sizes[key as keyof typeof sizes])];
    if (!entries.every(positive)) return undefined;
    return unitScaling({
      increments,
      gear: { motor, shaft },
      output: { is, ...sizes } as MotionOutput,
      reversed,
    });
  });
  const points = $derived(
    [a.raw, b.raw].every((text) => /^-?\d+$/.test(text)) &&
      [a.value, b.value].every((text) => exactRatio(text))
      ? scaleThrough({ raw: Number(a.raw), value: a.value }, { raw: Number(b.raw), value: b.value })
      : undefined,
  );
  const shown = (value: { valueOf: () => number }) => String(Number(value.valueOf().toPrecision(8)));

  function takePoints() {
    if (points) take({ factor: ratioText(points.factor), offset: ratioText(points.offset) }, undefined);
  }
  function takeMechanics() {
    if (!scaling) return;
    const factor = speed && perSecond === 'rpm' ? scaling.perRpm : scaling.perIncrement;
    take({ factor: ratioText(factor), offset: '0' }, speed ? `${scaling.unit}/s` : scaling.unit);
  }
  function typed(part: object, key: string) {
    return (text: string) => {
      const value = text.trim().replace(',', '.');
      if (exactRatio(value) === undefined) {
        desk.note = { says: `${text} is no number.`, cure: 'Type a number such as 10, 0.5 or 1/3.' };
        return false;
      }
      (part as Record<string, string>)[key] = value;
      return true;
    };
  }
  const outputs = {
    screw: 'screw',
    belt: 'toothed belt',
    rack: 'rack and pinion',
    pulley: 'pulley',
    drum: 'drum',
    table: 'rotary table',
  } as const;
</script>

<details class="mt-1">
  <summary class="cursor-pointer text-faint">Work the scale out</summary>
  <span class="segment my-1" role="group" aria-label="how the scale is worked out">
    <button aria-pressed={way === 'points'} onclick={() => (way = 'points')}>two points</button>
    <button aria-pressed={way === 'mechanics'} onclick={() => (way = 'mechanics')}>mechanics</button>
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
    <button class="btn mt-1 btn-sm" disabled={!points} onclick={takePoints}>Take this scale</button>
  {:else}
    <LensEntry
      title="increments a revolution"
      class="w-24 font-mono"
      value={increments}
      take={(t) => positive(t) && ((increments = t), true)}
    />
    <LensEntry
      title="motor revolutions"
      class="w-16 font-mono"
      value={motor}
      take={(t) => positive(t) && ((motor = t), true)}
    />
    <LensEntry
      title="for shaft revolutions"
      class="w-16 font-mono"
      value={shaft}
      take={(t) => positive(t) && ((shaft = t), true)}
    />
    <label class="lens-row"
      >the shaft drives <select class="inplace w-36" aria-label="what the shaft drives" bind:value={is}>
        {#each Object.entries(outputs) as [key, title] (key)}<option value={key}>{title}</option>{/each}
      </select></label
    >
    {#if is === 'screw'}
      <LensEntry title="lead, mm" class="w-16 font-mono" value={sizes.lead} take={typed(sizes, 'lead')} />
    {:else if is === 'belt' || is === 'rack'}
      <LensEntry title="teeth" class="w-16 font-mono" value={sizes.teeth} take={typed(sizes, 'teeth')} />
      {#if is === 'belt'}
        <LensEntry
          title="pitch, mm"
          class="w-16 font-mono"
          value={sizes.pitch}
          take={typed(sizes, 'pitch')}
        />
      {:else}
        <LensEntry
          title="module, mm"
          class="w-16 font-mono"
          value={sizes.module}
          take={typed(sizes, 'module')}
        />
      {/if}
    {:else if is !== 'table'}
      <LensEntry
        title="diameter, mm"
        class="w-16 font-mono"
        value={sizes.diameter}
        take={typed(sizes, 'diameter')}
      />
    {/if}
    <label class="lens-row"
      >turns the other way <input
        type="checkbox"
        class="checkbox rounded-sm checkbox-xs"
        bind:checked={reversed}
      /></label
    >
    {#if speed}
      <label class="lens-row"
        >the raw number counts <select
          class="inplace w-36"
          aria-label="the raw number counts"
          bind:value={perSecond}
        >
          <option value="increments">increments a second</option><option value="rpm"
            >revolutions a minute</option
          >
        </select></label
      >
    {/if}
    {#if scaling}
      {@const { unit, perIncrement, perRevolution, range } = scaling}
      <p class="text-xs text-faint">
        An increment is <span class="font-mono">{shown(perIncrement)} {unit}</span>, a revolution
        <span class="font-mono">{shown(perRevolution)} {unit}</span>; 32 bits reach
        <span class="font-mono">±{shown(range.greatest)} {unit}</span>.
        {#if is === 'table' && moduloIncrements('360', scaling).d !== 1n}
          <span class="text-error"
            >▲ 360° are no whole number of increments: the axis drifts with each turn.</span
          >
        {/if}
      </p>
    {:else}<p class="text-xs text-error">Sizes must be numbers above 0.</p>{/if}
    <button class="btn mt-1 btn-sm" disabled={!scaling} onclick={takeMechanics}>Take this scale</button>
  {/if}
</details>
