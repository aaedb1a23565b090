<script lang="ts">
  import EarlierOptions from '$lib/controls/EarlierOptions.svelte';
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import ImagePicker from '$lib/sight/ImagePicker.svelte';
  import SightLinks from '$lib/sight/SightLinks.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { EarlierStates } from '$lib/desk/earlier.svelte.js';
  import { sightPlace } from '$lib/sight/sightPlace.js';
  import { typeText } from '$lib/sight/fieldTexts.js';
  import {
    allImages,
    bothSides,
    compareImages,
    imageTitle,
    sceneOf,
    type Cell,
    type Difference,
    type Signal,
  } from '@fadenkreuz/core';

  const desk = useDesk();
  const place = $derived(sightPlace(desk));
  const places = $derived(allImages(desk.cell));

  const states = new EarlierStates(
    () => desk.cell.id,
    (note) => (desk.note = note),
  );
  /** `image <id>` or `version <n>`. */
  let against = $state('');
  let earlier = $state.raw<{ version: number; cell: Cell } | undefined>();
  let onlyDifferent = $state(true);

  // Each stored change adds an earlier state.
  $effect(() => {
    if (desk.unsaved === 0 && desk.cell) void states.load();
  });

  async function choose(value: string) {
    against = value;
    earlier = undefined;
    const version = /^version (\d+)$/.exec(value)?.[1];
    if (version === undefined) return;
    const cell = await states.at(Number(version));
    if (cell) earlier = { version: Number(version), cell };
  }

  const others = $derived(places.filter((p) => p.image.id !== place?.image.id));
  const right = $derived.by(() => {
    const version = /^version/.test(against);
    const id = version ? place?.image.id : (/^image (.+)$/.exec(against)?.[1] ?? likely?.image.id);
    const cell = version ? earlier?.cell : desk.cell;
    const found = cell && allImages(cell).find((p) => p.image.id === id);
    return cell && found ? { cell, place: found } : undefined;
  });
  /** A device of the same kind is what one compares with, as a rule. */
  const likely = $derived(
    others.find((p) => p.device.kind === place?.device.kind && p.image.direction === place.image.direction) ??
      others.find((p) => p.image.direction === place?.image.direction) ??
      others[0],
  );
  const againstText = $derived.by(() => {
    const version = /^version (\d+)$/.exec(against)?.[1];
    const title = version === undefined ? '' : states.titleOf(Number(version));
    if (title) return title;
    return right ? imageTitle(right.place.device, right.place.image.direction) : '';
  });
  const differences = $derived(place && right ? compareImages(place.image, right.place.image) : []);
  const shown = $derived(onlyDifferent ? differences.filter((d) => d.kind !== 'same') : differences);
  const kinds = ['moved', 'retyped', 'changed', 'missing', 'new', 'same'] as const;
  const marks: Record<Difference['kind'], string> = {
    moved: '⇅',
    retyped: '◇',
    changed: '≠',
    missing: '−',
    new: '+',
    same: '=',
  };
  const count = (kind: Difference['kind']) => differences.filter((d) => d.kind === kind).length;

  function addressOf(signal: Signal | undefined, side: 'left' | 'right'): string {
    if (!signal) return '';
    const from = side === 'left' ? place && { cell: desk.cell, place } : right;
    if (!from || signal.at >= from.place.image.size * 8) return 'past the end';
    const sides = bothSides(sceneOf(from.cell, from.place), signal.at);
    return `${sides.controller.text} ↔ ${sides.device.text}`;
  }
</script>

<View lensTitle="Difference">
  {#snippet main()}
    {#if place}
      <h1 class="sr-only">Compare images</h1>
      <div class="mb-3 flex flex-wrap items-center gap-3">
        <ImagePicker {place} />
        <SightLinks here="/compare" />
        <label class="flex items-center gap-2">
          with
          <LongSelect
            class="max-w-80 font-mono"
            text={againstText}
            value={against || (likely ? `image ${likely.image.id}` : '')}
            onchange={(event) => void choose(event.currentTarget.value)}
          >
            <optgroup label="images">
              {#each others as other (other.image.id)}
                <option value="image {other.image.id}"
                  >{imageTitle(other.device, other.image.direction)}</option
                >
              {/each}
            </optgroup>
            <EarlierOptions {states} label="earlier states of this image" />
          </LongSelect>
        </label>
      </div>
      <table class="w-full table-fixed border-collapse" aria-label="differences">
        <colgroup><col class="w-24" /><col class="w-44" /><col /><col /><col /></colgroup>
        <thead class="text-left text-xs text-faint">
          <tr>
            <th class="py-1 font-normal">what</th><th class="font-normal">signal</th>
            <th class="font-normal">here</th><th class="font-normal">there</th><th class="font-normal"
              >difference, here → there</th
            >
          </tr>
        </thead>
        <tbody>
          {#each shown as { kind, name, left, right: other, details }, i (i)}
            <tr class="border-t border-base-300 align-top">
              <td class="py-1 whitespace-nowrap"
                ><span class="font-mono" aria-hidden="true">{marks[kind]}</span> {kind}</td
              >
              <td class="py-1 font-mono wrap-anywhere">{name}</td>
              <td class="py-1 pr-2 font-mono text-xs"
                >{#if left}{typeText(left)}<br /><span class="text-faint">{addressOf(left, 'left')}</span
                  >{:else}—{/if}</td
              >
              <td class="py-1 pr-2 font-mono text-xs"
                >{#if other}{typeText(other)}<br /><span class="text-faint">{addressOf(other, 'right')}</span
                  >{:else}—{/if}</td
              >
              <td class="py-1 text-xs wrap-anywhere">{details.join('; ')}</td>
            </tr>
          {:else}
            <tr
              ><td class="py-3 text-faint" colspan="5"
                >{right ? 'No difference.' : 'There is nothing to compare with.'}</td
              ></tr
            >
          {/each}
        </tbody>
      </table>
    {/if}
  {/snippet}
  {#snippet lens()}
    <h2 class="text-lg font-semibold">Differences</h2>
    <p class="text-faint">Signals belong together by their names.</p>
    {#each kinds as kind (kind)}
      <div class="lens-row">
        <span><span class="font-mono" aria-hidden="true">{marks[kind]}</span> {kind}</span><span
          class="font-mono"
          data-testid="count-{kind}">{count(kind)}</span
        >
      </div>
    {/each}
    {#if place && right && place.image.size !== right.place.image.size}
      <p class="mt-2">
        Size <span class="font-mono">{place.image.size}</span> bytes here,
        <span class="font-mono">{right.place.image.size}</span> there.
      </p>
    {/if}
    <label class="lens-row mt-3">
      only what differs
      <input type="checkbox" class="checkbox checkbox-sm" bind:checked={onlyDifferent} />
    </label>
  {/snippet}
</View>
