<script lang="ts">
  import { goto } from '$app/navigation';
  import FieldsTable from '$lib/sight/FieldsTable.svelte';
  import ImagePicker from '$lib/sight/ImagePicker.svelte';
  import RowsEntry from '$lib/controls/RowsEntry.svelte';
  import SightLinks from '$lib/sight/SightLinks.svelte';
  import TableColumns from '$lib/controls/TableColumns.svelte';
  import TableLens from '$lib/sight/TableLens.svelte';
  import RowsNotRead from '$lib/controls/RowsNotRead.svelte';
  import TextsPreview from '$lib/sight/TextsPreview.svelte';
  import Tape from '$lib/sight/Tape.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { sightPlace } from '$lib/sight/sightPlace.js';
  import { tablePreview, type TableChoice } from '$lib/sight/tablePreview.js';
  import { shapeOf } from '$lib/sight/tape.js';
  import {
    allImages,
    columns,
    guessReading,
    readTexts,
    textEdits,
    sceneOf,
    withColumns,
    type Column,
  } from '@fadenkreuz/core';

  const desk = useDesk();
  const place = $derived(sightPlace(desk));
  const scene = $derived(place && sceneOf(desk.cell, place));

  /** The rows that were pasted or opened; undefined while the present fields are shown. */
  let rows = $state.raw<string[][] | undefined>();
  let choice = $state.raw<TableChoice | undefined>();
  let bit = $state(0);
  /** What the rows are for: fields that are not there yet, or texts of those that are. */
  let purpose = $state<'fields' | 'texts'>('fields');

  const shape = $derived(shapeOf(16, 'narrow', scene?.runs !== undefined));
  const preview = $derived(
    place && rows && choice
      ? tablePreview(desk.cell, place, rows, choice, () => crypto.randomUUID())
      : undefined,
  );

  /** The image first, then all others of the cell. */
  const scenes = $derived(
    place && rows
      ? [place, ...allImages(desk.cell).filter((p) => p.image.id !== place.image.id)].map((p) =>
          sceneOf(desk.cell, p),
        )
      : [],
  );
  const texts = $derived(
    rows && choice && purpose === 'texts' ? readTexts(rows, choice.reading, scenes) : undefined,
  );
  function takeTexts() {
    if (texts && textEdits(texts).every((edit) => desk.edit(edit))) leave();
  }

  function read(next: string[][]) {
    if (!place) return;
    rows = next;
    choice = { reading: guessReading(next, place.image), replace: false, enlarge: false, roles: true };
    bit = 0;
    // Rows without types and lengths that mostly name what is there are texts for it.
    const { columns } = choice.reading;
    const known = readTexts(next, choice.reading, scenes);
    const plain = !columns.includes('type') && !columns.includes('length');
    purpose =
      plain && place.image.fields.length > 0 && known.bad.length < next.length / 2 ? 'texts' : 'fields';
  }
  function chooseColumn(at: number, as: Column | null) {
    if (!choice || !rows || !place) return;
    const { reading } = choice;
    const columns = reading.columns.map((column, i) => (i === at ? as : column === as ? null : column));
    choice = { ...choice, reading: withColumns(rows, reading, columns, place.image) };
  }
  function leave() {
    rows = undefined;
    choice = undefined;
  }
  async function take() {
    if (!place || !preview || !desk.edit(preview.edit)) return;
    // Kept before the rows are let go: with them goes the preview.
    const { image, fields } = preview;
    const { link } = place;
    const other = image.direction === 'command' ? link.feedback : link.command;
    leave();
    // The table of the other side comes next, where there is none yet.
    if (other.size > 0 && other.fields.length === 0) {
      desk.crosshair = { image: other.id, bit: 0 };
      return;
    }
    desk.crosshair = { image: image.id, bit: fields[0]?.at ?? 0 };
    await goto(`/cells/${desk.cell.id}/sight`);
  }
</script>

<View lensTitle="How the table is read">
  {#snippet main()}
    <div class="flex h-full flex-col gap-2">
      {#if place && scene}
        <h1 class="sr-only">Table of an image</h1>
        <div class="flex items-center gap-3">
          <ImagePicker {place} />
          <SightLinks here="/table" />
          {#if !rows}
            <span class="ml-auto"></span>
            <a class="btn btn-sm" href="/api/cells/{desk.cell.id}/images/{place.image.id}/csv" download>CSV</a
            >
            <a class="btn btn-sm" href="/api/cells/{desk.cell.id}/images/{place.image.id}/xlsx" download
              >XLSX</a
            >
          {/if}
        </div>
        {#if rows && choice && preview}
          <TableColumns
            {rows}
            headed={choice.reading.headed}
            known={columns}
            chosen={choice.reading.columns}
            onchoose={chooseColumn}
          />
          {#if texts}
            <TextsPreview {texts} />
          {:else}
            <Tape
              scene={{ ...scene, image: preview.image }}
              {shape}
              bit={Math.min(bit, Math.max(0, preview.image.size * 8 - 1))}
              marked={preview.taken}
              onpin={(to) => (bit = to)}
            />
          {/if}
        {:else}
          <RowsEntry placeholder="Byte, Bit, Name, Type, Unit, Factor" onrows={read} />
          <FieldsTable {scene} />
        {/if}
      {/if}
    </div>
  {/snippet}
  {#snippet lens()}
    {#if rows && choice && preview && place}
      <div class="segment mb-3" role="group" aria-label="what the rows are for">
        <button aria-pressed={purpose === 'fields'} onclick={() => (purpose = 'fields')}>new fields</button>
        <button aria-pressed={purpose === 'texts'} onclick={() => (purpose = 'texts')}
          >names and comments</button
        >
      </div>
    {/if}
    {#if texts}
      <h2 class="text-lg font-semibold">{texts.changes.length} texts</h2>
      <p class="text-faint">
        For what is laid out already, by address or by name, in this image or, by direct address, in any.
        Nothing but names, comments and labels of bits changes.
        {#if texts.same > 0}{texts.same} rows say what is there.{/if}
      </p>
      <div class="mt-3 flex gap-2">
        <button class="btn btn-primary btn-sm" disabled={texts.changes.length === 0} onclick={takeTexts}
          >Take {texts.changes.length} texts</button
        >
        <button class="btn btn-sm" onclick={leave}>Cancel</button>
      </div>
      <RowsNotRead rows={texts.bad} />
    {:else if rows && choice && preview && place}
      <TableLens {choice} {preview} present={place.image.fields.length} onchange={(next) => (choice = next)}>
        <button
          class="btn btn-primary btn-sm"
          disabled={preview.fields.length === 0}
          onclick={() => void take()}>Take {preview.fields.length} fields</button
        >
        <button class="btn btn-sm" onclick={leave}>Cancel</button>
      </TableLens>
    {:else}
      <h2 class="text-lg font-semibold">Table of an image</h2>
      <p class="mt-2 text-faint">
        Rows with a name, an address and a type become fields. Columns are guessed from their headings and
        their contents, the base of the addresses from what fits the image; all of it can be corrected before
        anything is taken.
      </p>
      <p class="mt-2 text-faint">
        A list of names and comments for what is laid out already changes texts alone. CSV and XLSX write
        every entry of the fields, and are read back here without loss.
      </p>
    {/if}
  {/snippet}
</View>
