<script lang="ts">
  import {
    choosePoint,
    pointsOf,
    pointTitle,
    protocolOf,
    type Device,
    type Image,
    type Link,
    type PointChoice,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /**
   * The connection points of the description that an image can exchange; what a choice does to the layout is said
   * before it is done.
   */
  let { device, link, image }: { device: Device; link: Link; image: Image } = $props();
  const desk = useDesk();

  const points = $derived(pointsOf(link, image.direction, device.description));
  const now = $derived(protocolOf(link).pointFor(link, image.direction, device.description));
  let planned = $state.raw<PointChoice>();

  function choose(select: HTMLSelectElement) {
    const point = points[Number(select.value)];
    if (point && point !== now) planned = choosePoint(image, point, () => crypto.randomUUID());
    // The list shows what holds until the choice is made.
    select.value = String(now ? points.indexOf(now) : -1);
  }
  const names = (what: string) => planned?.fields.filter((f) => f.what === what).map((f) => f.name) ?? [];
  const some = (list: string[]) =>
    list.slice(0, 6).join(', ') + (list.length > 6 ? ` and ${list.length - 6} more` : '');
  function done() {
    if (planned && desk.edit(planned.edit)) planned = undefined;
  }
</script>

{#if points.length > 1 || (points.length === 1 && points[0] !== now)}
  <label class="lens-row flex-wrap gap-y-0">
    connection point
    <select
      class="inplace w-full min-w-0 cursor-pointer pr-6"
      aria-label="connection point of the {image.direction} image"
      value={String(now ? points.indexOf(now) : -1)}
      onchange={(event) => choose(event.currentTarget)}
    >
      {#if !now}<option value="-1">none of the described</option>{/if}
      {#each points as point, i (i)}
        <option value={String(i)}
          >{point.number} · {point.size} bytes{point.title ? ` · ${point.title}` : ''}</option
        >
      {/each}
    </select>
  </label>
{/if}
{#if planned}
  <div class="my-2 border-l-[3px] border-base-content pl-3" role="status">
    <b>{planned.edit.title}</b>: {planned.edit.set.size} bytes{device.description.points.some(
      (p) => pointTitle(p) === planned?.edit.title && p.fields === null,
    )
      ? '; its layout is not described, fields that fit stay'
      : ''}
    {#each [['gone', 'lost'], ['moved', 'changed place or meaning'], ['new', 'new'], ['kept', 'kept']] as const as [what, title] (what)}
      {#if names(what).length > 0}
        <div>
          <span class={what === 'gone' ? 'font-semibold' : 'text-faint'}>{title}, {names(what).length}:</span>
          <span class="font-mono text-[13px] break-words">{some(names(what))}</span>
        </div>
      {/if}
    {/each}
    <div class="mt-1 flex gap-2">
      <button class="btn btn-sm" onclick={done}>Connect to this point</button>
      <button class="btn btn-ghost btn-sm" onclick={() => (planned = undefined)}>Cancel</button>
    </div>
  </div>
{/if}
