<script lang="ts">
  import InPlace from '$lib/controls/InPlace.svelte';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    figureText as figure,
    moveProfile,
    type Device,
    type DriveTrain,
    type Move,
  } from '@fadenkreuz/core';
  import { editTrain, numberTyped } from './trainEdits.js';

  /** The moves of an axis, one after the other, again and again. */
  let { device, train, unit }: { device: Device; train: DriveTrain; unit: string } = $props();
  const desk = useDesk();

  const columns = $derived([
    ['distance', unit],
    ['velocity', `${unit}/s`],
    ['acceleration', `${unit}/s²`],
    ['deceleration', `${unit}/s²`],
    ['jerk', `${unit}/s³`],
    ['rest', 's'],
    ...(unit === 'mm' ? [['carries', 'kg'] as const] : []),
  ] as const);

  const set = (moves: Move[]) => editTrain(desk, device, { moves });
  function take(at: number, key: keyof Move, text: string): boolean {
    const value = numberTyped(text);
    if (value === undefined || (value === null && key !== 'jerk')) {
      desk.note = { says: `${text || 'Nothing'} is no number.`, cure: 'Type a number such as 250 or 0.5.' };
      return false;
    }
    return set(train.moves.map((move, i) => (i === at ? { ...move, [key]: value } : move)));
  }
  function add() {
    const last = train.moves.at(-1);
    const fresh: Move = {
      ...{ title: '', distance: 100, velocity: 100, acceleration: 500, deceleration: 500, jerk: null },
      ...{ rest: 0, carries: 0 },
    };
    // There and back is the usual cycle.
    set([...train.moves, last ? { ...last, distance: -last.distance } : fresh]);
  }
</script>

<table class="w-full border-collapse text-sm" aria-label="moves">
  <thead>
    <tr class="border-b border-base-content text-left text-xs text-faint">
      <th class="py-1 pr-2 font-normal">#</th>
      {#each columns as [key, of] (key)}<th class="py-1 pr-2 text-right font-normal">{key}, {of}</th>{/each}
      <th class="py-1 pr-2 text-right font-normal whitespace-nowrap">takes, s</th>
      <th><span class="sr-only">remove</span></th>
    </tr>
  </thead>
  <tbody>
    {#each train.moves as move, i (i)}
      <tr class="border-b border-base-300">
        <td class="py-0.5 pr-2 text-faint">{i + 1}</td>
        {#each columns as [key] (key)}
          <td class="py-0.5 pr-2 text-right">
            <InPlace
              class="w-full text-right font-mono"
              label="{key} of move {i + 1}"
              value={move[key] === null ? '' : String(move[key])}
              placeholder={key === 'jerk' ? 'at once' : ''}
              take={(text) => take(i, key, text)}
            />
          </td>
        {/each}
        <td class="py-0.5 pr-2 text-right font-mono">{figure(moveProfile(move).lasts)}</td>
        <td class="w-8 text-right">
          <RemoveButton
            label="Remove move {i + 1}"
            onclick={() => set(train.moves.filter((_, n) => n !== i))}
          />
        </td>
      </tr>
    {/each}
  </tbody>
</table>
<button class="btn mt-1 btn-sm" onclick={add}>Add a move</button>
