<script lang="ts">
  import { goto } from '$app/navigation';
  import FieldsTable from '$lib/sight/FieldsTable.svelte';
  import ImagePicker from '$lib/sight/ImagePicker.svelte';
  import RowsEntry from '$lib/controls/RowsEntry.svelte';
  import SightLinks from '$lib/sight/SightLinks.svelte';
  import TableColumns from '$lib/controls/TableColumns.svelte';
  import TableLens from '$lib/sight/TableLens.svelte';
  import Tape from '$lib/sight/Tape.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { sightPlace } from '$lib/sight/sightPlace.js';
  import { tablePreview, type TableChoice } from '$lib/sight/tablePreview.js';
  import { shapeOf } from '$lib/sight/tape.js';
  import { columns, guessReading, sceneOf, type Column, type TableReading } from '@fadenkreuz/core';

  const desk = useDesk();
  const place = $derived(sightPlace(desk));
  const scene = $derived(place && sceneOf(desk.cell, place));

  /** The rows that were pasted or opened; undefined while the present fields are shown. */
  let rows = $state.raw<string[][] | undefined>();
  let choice = $state.raw<TableChoice | undefined>();
  let bit = $state(0);

  const shape = $derived(shapeOf(16, 'narrow', scene?.runs !== undefined));
  const preview = $derived(
    place && rows && choice
      ? tablePreview(desk.cell, place, rows, choice, () => crypto.randomUUID())
      : undefined,
  );

  function read(next: string[][]) {
    if (!place) return;
    rows = next;
    choice = { reading: guessReading(next, place.image), replace: false, enlarge: false };
    bit = 0;
  }
  function setReading(values: Partial<TableReading>) {
    if (choice) choice = { ...choice, reading: { ...choice.reading, ...values } };
  }
  function chooseColumn(at: number, as: Column | null) {
    if (!choice) return;
    setReading({
      columns: choice.reading.columns.map((column, i) => (i === at ? as : column === as ? null : column)),
    });
  }
  function leave() {
    rows = undefined;
    choice = undefined;
  }
  async function take() {
    if (!preview || !desk.edit(preview.edit)) return;
    desk.crosshair = { image: preview.image.id, bit: preview.fields[0]?.at ?? 0 };
    leave();
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
          <Tape
            scene={{ ...scene, image: preview.image }}
            {shape}
            bit={Math.min(bit, Math.max(0, preview.image.size * 8 - 1))}
            marked={preview.taken}
            onpin={(to) => (bit = to)}
          />
        {:else}
          <RowsEntry placeholder="Byte, Bit, Name, Type, Unit, Factor" onrows={read} />
          <FieldsTable {scene} />
        {/if}
      {/if}
    </div>
  {/snippet}
  {#snippet lens()}
    {#if rows && choice && preview && place}
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
        CSV and XLSX write every entry of the fields, and are read back here without loss.
      </p>
    {/if}
  {/snippet}
</View>
