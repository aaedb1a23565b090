<script lang="ts">
  import { goto } from '$app/navigation';
  import FieldsTable from '$components/FieldsTable.svelte';
  import ImagePicker from '$components/ImagePicker.svelte';
  import SightLinks from '$components/SightLinks.svelte';
  import TableColumns from '$components/TableColumns.svelte';
  import TableLens from '$components/TableLens.svelte';
  import Tape from '$components/Tape.svelte';
  import View from '$components/View.svelte';
  import { editsText } from '$components/keys.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { sightPlace } from '$lib/desk/sightPlace.js';
  import { tablePreview, type TableChoice } from '$lib/desk/tablePreview.js';
  import { shapeOf } from '$lib/desk/tape.js';
  import {
    guessReading,
    Problem,
    sceneOf,
    tableCells,
    type Column,
    type TableReading,
  } from '@fadenkreuz/core';

  const desk = useDesk();
  const place = $derived(sightPlace(desk));
  const scene = $derived(place && sceneOf(desk.cell, place));

  let pasted = $state('');
  /** The rows that were pasted or opened; undefined while the present fields are shown. */
  let rows = $state.raw<string[][] | undefined>();
  let choice = $state.raw<TableChoice | undefined>();
  let bit = $state(0);

  const shape = shapeOf(16, 'close');
  const preview = $derived(
    place && rows && choice
      ? tablePreview(desk.cell, place, rows, choice, () => crypto.randomUUID())
      : undefined,
  );

  function read(next: string[][]) {
    if (!place || next.length === 0) return;
    rows = next;
    choice = { reading: guessReading(next, place.image), replace: false, enlarge: false };
    bit = 0;
  }
  function readText(text: string) {
    if (text.trim()) read(tableCells(text));
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
    pasted = '';
  }
  async function take() {
    if (!preview || !desk.edit(preview.edit)) return;
    desk.crosshair = { image: preview.image.id, bit: preview.fields[0]?.at ?? 0 };
    leave();
    await goto(`/cells/${desk.cell.id}/sight`);
  }

  async function open(file: File | undefined) {
    if (!file) return;
    if (!/\.xlsx$/i.test(file.name)) return readText(await file.text());
    const answer = await fetch('/api/tables', { method: 'POST', body: file });
    const value = (await answer.json()) as { rows: string[][] } & InstanceType<typeof Problem>;
    if (answer.ok) read(value.rows);
    else desk.note = value as never;
  }

  function paste(event: ClipboardEvent) {
    const text = event.clipboardData?.getData('text/plain');
    if (!text || rows || editsText(event as never)) return;
    event.preventDefault();
    readText(text);
  }
</script>

<svelte:window onpaste={paste} />

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
          <label class="flex flex-col gap-1">
            <span
              >Paste rows from a spreadsheet, or from the table of a manual, and press Enter twice or Read.</span
            >
            <textarea
              class="textarea h-24 w-full font-mono text-xs"
              bind:value={pasted}
              placeholder="Byte, Bit, Name, Type, Unit, Factor"
              aria-label="rows to read"
              onpaste={(event) => {
                const text = event.clipboardData?.getData('text/plain') ?? '';
                if (text.includes('\n')) {
                  event.preventDefault();
                  readText(text);
                }
              }}
              onkeydown={(event) => {
                if (event.key === 'Enter' && pasted.endsWith('\n')) {
                  event.preventDefault();
                  readText(pasted);
                }
              }}></textarea>
          </label>
          <div class="flex items-center gap-2">
            <button class="btn btn-sm" disabled={!pasted.trim()} onclick={() => readText(pasted)}>Read</button
            >
            <label class="btn btn-sm"
              >Open a file<input
                type="file"
                class="sr-only"
                accept=".csv,.tsv,.txt,.xlsx"
                onchange={(event) => void open(event.currentTarget.files?.[0])}
              /></label
            >
          </div>
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
        <button class="btn btn-sm" onclick={leave}>Leave</button>
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
