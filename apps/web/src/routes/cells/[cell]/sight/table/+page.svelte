<script lang="ts">
  import { goto } from '$app/navigation';
  import ImagePicker from '$components/ImagePicker.svelte';
  import SightLinks from '$components/SightLinks.svelte';
  import TableColumns from '$components/TableColumns.svelte';
  import Tape from '$components/Tape.svelte';
  import View from '$components/View.svelte';
  import { editsText } from '$components/keys.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { sightPlace } from '$lib/desk/sightPlace.js';
  import { tablePreview, type TableChoice } from '$lib/desk/tablePreview.js';
  import { shapeOf } from '$lib/desk/tape.js';
  import {
    bothSides,
    fieldTable,
    guessReading,
    Problem,
    sceneOf,
    tableCells,
    tableUnits,
    type Column,
    type TableReading,
    type TableUnit,
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
  const doubtful = $derived(preview?.findings.find((f) => f.code === 'image.baseDoubtful'));

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
          <SightLinks here="table" />
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
          {@const [titles = [], ...fields] = fieldTable(place.image)}
          {@const filled = titles.map((_, i) => fields.some((row) => row[i]))}
          <div class="min-h-0 flex-1 overflow-auto rounded-field border border-base-300">
            <table class="w-full border-collapse text-xs" aria-label="fields of the image">
              <thead class="sticky top-0 bg-base-200 text-left">
                <tr>
                  <th class="border-b border-base-300 px-2 py-1">controller</th>
                  {#each titles as title, i (i)}
                    {#if filled[i]}<th class="border-b border-base-300 px-2 py-1 whitespace-nowrap"
                        >{title}</th
                      >{/if}
                  {/each}
                </tr>
              </thead>
              <tbody>
                {#each fields as row, r (r)}
                  {@const [byte = 0, bitOf = 0] = (
                    row[titles.findIndex((t) => t.startsWith('address'))] ?? ''
                  )
                    .split('.')
                    .map(Number)}
                  <tr>
                    <td class="border-b border-base-300 px-2 py-0.5 font-mono text-faint"
                      >{byte < place.image.size
                        ? bothSides(scene, byte * 8 + bitOf).controller.text
                        : 'past the end'}</td
                    >
                    {#each row as cell, i (i)}
                      {#if filled[i]}<td
                          class="max-w-64 truncate border-b border-base-300 px-2 py-0.5 font-mono">{cell}</td
                        >{/if}
                    {/each}
                  </tr>
                {:else}
                  <tr><td class="p-2 text-faint">No fields yet.</td></tr>
                {/each}
              </tbody>
            </table>
          </div>
        {/if}
      {/if}
    </div>
  {/snippet}
  {#snippet lens()}
    {#if rows && choice && preview && place}
      {@const { reading } = choice}
      <h2 class="text-lg font-semibold">
        {preview.fields.length} fields{preview.bad.length ? `, ${preview.bad.length} rows not read` : ''}
      </h2>
      <p class="text-faint">Dashed on the tape; nothing is changed before you take them.</p>
      <h3 class="lens-heading">Addresses</h3>
      <label class="lens-row">
        count
        <select
          class="inplace cursor-pointer"
          aria-label="unit of the addresses"
          value={reading.addressUnit}
          onchange={(event) => setReading({ addressUnit: event.currentTarget.value as TableUnit })}
        >
          {#each Object.keys(tableUnits) as unit (unit)}<option value={unit}>{unit}s</option>{/each}
        </select>
      </label>
      <label class="lens-row">
        the first one is
        <input
          class="inplace w-20 border-base-300 text-right font-mono"
          type="number"
          min="0"
          aria-label="base of the addresses"
          value={reading.base}
          oninput={(event) => setReading({ base: event.currentTarget.valueAsNumber || 0, reason: '' })}
        />
      </label>
      {#if reading.reason}<p class="text-xs text-faint">{reading.reason}</p>{/if}
      {#if doubtful}
        <div class="my-2 border-l-[3px] border-base-content pl-3">
          <p>{doubtful.says}</p>
          <button class="btn mt-1 btn-sm" onclick={() => setReading({ base: reading.base + 1, reason: '' })}
            >Count addresses from {reading.base + 1}</button
          >
        </div>
      {/if}
      <label class="lens-row">
        lengths count
        <select
          class="inplace cursor-pointer"
          aria-label="unit of the lengths"
          value={reading.lengthUnit}
          onchange={(event) => setReading({ lengthUnit: event.currentTarget.value as TableUnit })}
        >
          {#each Object.keys(tableUnits) as unit (unit)}<option value={unit}>{unit}s</option>{/each}
        </select>
      </label>
      <label class="lens-row">
        first row holds headings
        <input
          type="checkbox"
          class="checkbox checkbox-sm"
          checked={reading.headed}
          onchange={(event) => setReading({ headed: event.currentTarget.checked })}
        />
      </label>
      <h3 class="lens-heading">Image</h3>
      <label class="lens-row">
        replace its {place.image.fields.length} fields
        <input
          type="checkbox"
          class="checkbox checkbox-sm"
          checked={choice.replace}
          onchange={(event) => choice && (choice = { ...choice, replace: event.currentTarget.checked })}
        />
      </label>
      <label class="lens-row">
        make it as long as the table
        <input
          type="checkbox"
          class="checkbox checkbox-sm"
          checked={choice.enlarge}
          onchange={(event) => choice && (choice = { ...choice, enlarge: event.currentTarget.checked })}
        />
      </label>
      <div class="mt-3 flex gap-2">
        <button
          class="btn btn-primary btn-sm"
          disabled={preview.fields.length === 0}
          onclick={() => void take()}>Take {preview.fields.length} fields</button
        >
        <button class="btn btn-sm" onclick={leave}>Leave</button>
      </div>
      {#if preview.bad.length}
        <h3 class="lens-heading">Rows not read</h3>
        {#each preview.bad.slice(0, 60) as { row, text, reason } (row)}
          <p class="border-b border-base-300 py-1 text-xs">
            <b class="font-mono">{row}</b>
            {reason}
            <span class="block truncate font-mono text-faint" title={text}>{text}</span>
          </p>
        {/each}
      {/if}
      {#if preview.findings.length}
        <h3 class="lens-heading">The checks would say</h3>
        {#each preview.findings.slice(0, 30) as finding, i (i)}
          <p class="my-1 border-l-[3px] border-base-300 pl-2 text-xs">
            <b>{finding.severity}</b> · {finding.says}
          </p>
        {/each}
      {/if}
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
