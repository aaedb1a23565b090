<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    alignFields,
    duplicateFields,
    insertField,
    moveFields,
    packFields,
    reserveGap,
    resizeField,
    type Edit,
    type Field,
    type Image,
  } from '@fadenkreuz/core';
  import { newField } from './fieldEdits.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** Edits of the whole layout; each is one step of undo. */
  let { image, field, bit }: { image: Image; field: Field | undefined; bit: number } = $props();
  const desk = useDesk();

  let count = $state(1);
  let pattern = $state('');
  let by = $state(8);

  const newId = () => crypto.randomUUID();
  const apply = (edit: Edit) => void desk.edit(edit);
  const id = $derived(field?.id ?? '');

  /** A new field of so many bits where the crosshair's field begins; all that stands there makes room. */
  function insert() {
    const at = field?.at ?? bit;
    const added = newField(image, at, at + by - 1, newId());
    if (added.edit === 'field.add') apply(insertField(image, added.field as Field, true));
  }
</script>

<LensSection title="Arrange" open={false}>
  <div class="flex flex-col gap-2">
    {#if field}
      <div class="flex items-center gap-2">
        <button class="btn btn-sm" onclick={() => apply(duplicateFields(image, [id], count, pattern, newId))}
          >Duplicate</button
        >
        <label class="flex items-center gap-1"
          ><input
            class="inplace w-12 border-base-300 font-mono"
            type="number"
            min="1"
            max="200"
            bind:value={count}
          />
          times</label
        >
        <input
          class="inplace w-24 border-base-300 font-mono"
          placeholder="name_#"
          aria-label="pattern of the names, # for the number"
          bind:value={pattern}
        />
      </div>
    {/if}
    <label class="flex items-center gap-2"
      >bits <input
        class="inplace w-16 border-base-300 font-mono"
        type="number"
        min="1"
        bind:value={by}
      /></label
    >
    <div class="flex flex-wrap gap-2">
      {#if field}
        <button class="btn btn-sm" onclick={() => apply(moveFields(image, [id], by, true))}
          >Move on, push</button
        >
        <button class="btn btn-sm" onclick={() => apply(moveFields(image, [id], -by, true))}
          >Move back, pull</button
        >
        <button class="btn btn-sm" onclick={() => apply(resizeField(image, field, field.bits + by, true))}
          >Longer, push</button
        >
        {#if field.bits > by}
          <button class="btn btn-sm" onclick={() => apply(resizeField(image, field, field.bits - by, true))}
            >Shorter, pull</button
          >
        {/if}
      {/if}
      <button class="btn btn-sm" onclick={insert}>Insert here, push</button>
      <button class="btn btn-sm" onclick={() => apply(reserveGap(image, field?.at ?? bit, by))}
        >Reserve gap here</button
      >
      <button class="btn btn-sm" onclick={() => apply(alignFields(image, by))}>Align all to bits</button>
      <button class="btn btn-sm" onclick={() => apply(packFields(image))}>Pack all</button>
    </div>
  </div>
</LensSection>
