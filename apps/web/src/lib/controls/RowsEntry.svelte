<script lang="ts">
  import { tableCells } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { Rows } from '$lib/api/tables.js';
  import { send } from '$lib/desk/send.js';
  import { editsText } from './keys.js';

  /** Rows of a table, from the clipboard, by hand, or out of a CSV or XLSX file. */
  let { placeholder, onrows }: { placeholder: string; onrows: (rows: string[][]) => void } = $props();
  const desk = useDesk();

  let pasted = $state('');

  function take(rows: string[][]) {
    if (rows.length === 0) return;
    pasted = '';
    onrows(rows);
  }
  const readText = (text: string) => text.trim() && take(tableCells(text));

  async function open(file: File | undefined) {
    if (!file) return;
    if (!/\.xlsx$/i.test(file.name)) return readText(await file.text());
    const answer = await send('POST', '/api/tables', Rows, file);
    if (answer.ok) take(answer.value.rows);
    else desk.note = answer.problem;
  }

  /** Anywhere on the view, unless something else takes the text. */
  function paste(event: ClipboardEvent) {
    const text = event.clipboardData?.getData('text/plain');
    if (!text || editsText(event as never)) return;
    event.preventDefault();
    readText(text);
  }
</script>

<svelte:window onpaste={paste} />

<label class="flex flex-col gap-1">
  <span>Paste rows from a spreadsheet, or from the table of a manual, and press Enter twice or Read.</span>
  <textarea
    class="textarea h-24 w-full font-mono text-xs"
    bind:value={pasted}
    {placeholder}
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
  <button class="btn btn-sm" disabled={!pasted.trim()} onclick={() => readText(pasted)}>Read</button>
  <label class="btn btn-sm focus-within:outline-2"
    >Open a file<input
      type="file"
      class="sr-only"
      accept=".csv,.tsv,.txt,.xlsx"
      onchange={({ currentTarget }) => {
        void open(currentTarget.files?.[0]);
        currentTarget.value = '';
      }}
    /></label
  >
</div>
