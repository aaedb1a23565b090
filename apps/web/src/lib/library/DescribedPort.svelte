<script lang="ts">
  import { allImages, imageTitle } from '@fadenkreuz/core';
  import { dataBytes, processDataFields, type Iodd } from '@fadenkreuz/core/describers';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { untrack } from 'svelte';

  interface Props {
    iodd: Iodd;
    ondone: (id: string) => void;
    oncancel: () => void;
  }
  /** The process data of an IO-Link device, laid onto the bytes of its port in the image of a master. */
  let { iodd, ondone, oncancel }: Props = $props();
  const desk = useDesk();

  const data = $derived(
    iodd.processData.flatMap((p) =>
      (
        [
          ['feedback', p.input],
          ['command', p.output],
        ] as const
      ).flatMap(([direction, side]) =>
        side
          ? [
              {
                id: `${p.id} ${side.id}`,
                direction,
                side,
                when: p.condition ? `while ${p.condition.variable} is ${p.condition.value}` : '',
              },
            ]
          : [],
      ),
    ),
  );
  let chosen = $state(0);
  const one = $derived(data[Math.min(chosen, data.length - 1)]);
  /** Images of the direction; those of masters first. */
  const images = $derived(
    allImages(desk.cell)
      .filter(({ image }) => image.direction === one?.direction)
      .sort(
        (a, b) => Number(b.device.kind === 'IO-Link master') - Number(a.device.kind === 'IO-Link master'),
      ),
  );
  let imageId = $state<string>();
  const place = $derived(images.find(({ image }) => image.id === imageId) ?? images[0]);
  let byte = $state(untrack(() => 0));
  const fields = $derived(one ? processDataFields(one.side, byte, () => crypto.randomUUID()) : []);

  function lay(event: SubmitEvent) {
    event.preventDefault();
    if (!place || !one) return;
    const title = `lay ${iodd.device.name}`.slice(0, 80);
    const edit = { edit: 'image.arrange' as const, image: place.image.id, title, fields };
    if (desk.edit(edit)) ondone(place.device.id);
  }
</script>

<form onsubmit={lay} class="mt-3 flex flex-col gap-2.5">
  <fieldset>
    <legend class="lens-heading">Process data</legend>
    {#each data as { id, direction, side, when }, i (id)}
      <label class="flex cursor-pointer items-baseline gap-2 border-b border-base-300 py-1">
        <input type="radio" class="radio radio-xs" bind:group={chosen} value={i} />
        <span class="min-w-0">
          <span class={direction === 'feedback' ? 'text-feedback' : 'text-command'}
            >{direction === 'feedback' ? '◂' : '▸'} {side.name || side.id}</span
          >
          <span class="font-mono">{dataBytes(side)} B</span>
          {#if when}<span class="block text-xs text-faint">{when}</span>{/if}
        </span>
      </label>
    {/each}
  </fieldset>
  <label class="flex flex-col">
    onto the image
    <select
      class="select select-sm"
      value={place?.image.id}
      onchange={(event) => (imageId = event.currentTarget.value)}
    >
      {#each images as option (option.image.id)}<option value={option.image.id}
          >{imageTitle(option.device, option.image.direction)}</option
        >{/each}
    </select>
  </label>
  <label class="flex flex-col"
    >from byte<input
      class="input font-mono input-sm"
      type="number"
      min="0"
      bind:value={byte}
      required
    /></label
  >
  <ul class="text-[13px]" aria-label="fields to be laid">
    {#each fields as field (field.id)}
      <li class="flex justify-between border-b border-base-300 py-0.5">
        <span class="font-mono">{field.name}</span>
        <span class="font-mono text-faint">{field.at >> 3}.{field.at & 7} {field.type} {field.bits}</span>
      </li>
    {/each}
  </ul>
  <div class="mt-1 flex gap-2">
    <button class="btn btn-primary btn-sm" type="submit" disabled={!place || fields.length === 0}>Lay</button>
    <button class="btn btn-sm" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>
