<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { axisUnit, type Device, type DriveTrain, type MotionOutput } from '@fadenkreuz/core';
  import { editTrain, ratioTyped } from '../trainEdits.js';

  /** What the shaft moves, and how it counts. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();
  const set = (part: Partial<DriveTrain>) => editTrain(desk, device, part);
  const unit = $derived(axisUnit(train.output));

  const outputs = {
    screw: { title: 'screw', sizes: { lead: 'lead, mm' } },
    belt: { title: 'toothed belt', sizes: { teeth: 'teeth', pitch: 'pitch, mm' } },
    rack: { title: 'rack and pinion', sizes: { teeth: 'teeth', module: 'module, mm' } },
    pulley: { title: 'pulley', sizes: { diameter: 'diameter, mm' } },
    drum: { title: 'drum', sizes: { diameter: 'diameter, mm' } },
    table: { title: 'rotary table', sizes: {} },
  } as const;
  const usual = { lead: '10', teeth: '20', pitch: '5', module: '2', diameter: '100' };
  function turnTo(is: string) {
    const { sizes } = outputs[is as keyof typeof outputs];
    const own = Object.fromEntries(Object.keys(sizes).map((key) => [key, usual[key as keyof typeof usual]]));
    set({ output: { is, ...own } as MotionOutput });
  }
  const setOutput = (key: string, text: string) =>
    set({ output: { ...train.output, [key]: ratioTyped(text) } as MotionOutput });
</script>

<label class="lens-row"
  >the shaft drives <select
    class="inplace w-36"
    aria-label="what the shaft drives"
    value={train.output?.is ?? ''}
    onchange={(event) => turnTo(event.currentTarget.value)}
  >
    <option value="" disabled>choose</option>
    {#each Object.entries(outputs) as [key, { title: name }] (key)}<option value={key}>{name}</option>{/each}
  </select></label
>
{#if train.output}
  {#each Object.entries(outputs[train.output.is].sizes) as [key, name] (key)}
    <LensEntry
      title={name}
      class="w-20 font-mono"
      value={(train.output as Record<string, string>)[key] ?? ''}
      take={(text) => setOutput(key, text)}
    />
  {/each}
{/if}
<label class="lens-row"
  >counts against the motor <input
    type="checkbox"
    class="checkbox rounded-sm checkbox-xs"
    checked={train.reversed}
    onchange={(event) => set({ reversed: event.currentTarget.checked })}
  /></label
>
<LensEntry
  title="begins anew after, {unit}"
  class="w-20 font-mono"
  value={train.modulo ?? ''}
  placeholder="never"
  take={(text) => set({ modulo: text.trim() === '' ? null : ratioTyped(text) })}
/>
