<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import ChangedRow from './ChangedRow.svelte';
  import { clockText } from './benchTexts.js';

  /** Which bit is it? Mark, act at the device, mark again: all that changed between, to be named where it stands. */
  const desk = useDesk();
  const { finder } = desk;

  $effect(() => {
    void finder.whole;
    finder.watch(desk.chosen?.id);
  });
  const found = $derived.by(() => {
    void desk.images.count;
    return finder.found();
  });
  const spans = [5, 30, 300];
  const cursors = $derived(desk.recorder.cursors);
</script>

<div class="mb-2 flex flex-wrap items-center gap-3">
  {#if finder.from === undefined}
    <button class="btn btn-primary btn-sm" disabled={!desk.running} onclick={() => finder.mark()}>Mark</button
    >
    <span class="text-faint">Then act at the device, or on its side, and mark again.</span>
  {:else if finder.to === undefined}
    <button class="btn btn-primary btn-sm" onclick={() => finder.mark()}>Mark again</button>
    <span role="status">Since <span class="font-mono">{clockText(finder.from)}</span></span>
    <button class="btn btn-sm" onclick={() => finder.startOver()}>Start over</button>
  {:else}
    <button class="btn btn-primary btn-sm" onclick={() => finder.startOver()}>Start over</button>
    <span role="status">
      From <span class="font-mono">{clockText(finder.from)}</span> to
      <span class="font-mono">{clockText(finder.to)}</span>
    </span>
  {/if}
  <span class="ml-auto"></span>
  <label class="flex items-center gap-2">
    <input type="checkbox" class="checkbox checkbox-sm" bind:checked={finder.whole} />
    all devices
  </label>
  <label class="flex items-center gap-2">
    or over
    <select
      class="select w-44 select-sm"
      aria-label="what is looked at instead of the marks"
      value=""
      onchange={({ currentTarget }) => {
        const { value } = currentTarget;
        currentTarget.value = '';
        if (value === 'cursors')
          finder.over(Math.min(cursors.a!, cursors.b!), Math.max(cursors.a!, cursors.b!));
        else if (value) finder.over(desk.images.now() - Number(value) * 1000, desk.images.now());
      }}
    >
      <option value="">the recording …</option>
      {#each spans as span (span)}<option value={String(span)}
          >{span < 60 ? `its last ${span} s` : `its last ${span / 60} min`}</option
        >{/each}
      {#if cursors.a !== undefined && cursors.b !== undefined}<option value="cursors"
          >from cursor A to B of the chart</option
        >{/if}
    </select>
  </label>
</div>

{#each found as { place, changes, from, to } (place.image.id)}
  {@const command = place.image.direction === 'command'}
  <h2 class={['mt-3 font-semibold', command ? 'text-command' : 'text-feedback']}>
    {command ? '▸' : '◂'} <span class="font-mono">{place.device.name}</span>
    {place.image.direction}
  </h2>
  <table
    class="w-full border-collapse"
    aria-label="what changed in {place.device.name} {place.image.direction}"
  >
    <thead>
      <tr class="border-b border-base-content/60 text-left text-xs text-faint">
        <th class="py-1 font-medium">controller · device</th>
        <th class="font-medium">called so far</th>
        <th class="font-medium">before → after</th>
        <th class="text-right font-medium">times</th>
        <th class="pl-3 font-medium">first, last</th>
        <th class="font-medium">name it</th>
      </tr>
    </thead>
    <tbody>
      {#each changes as change (`${change.at} ${change.bits}`)}
        <ChangedRow {place} {change} {from} {to} begun={finder.from ?? 0} />
      {/each}
    </tbody>
  </table>
{:else}
  {#if finder.from !== undefined}
    <p class="text-faint" role="status">Nothing has changed{finder.to === undefined ? ' yet' : ''}.</p>
  {/if}
{/each}
