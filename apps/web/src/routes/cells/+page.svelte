<script lang="ts">
  import { goto, invalidateAll } from '$app/navigation';
  import CellForm from '$lib/cells/CellForm.svelte';
  import { changeCell, copyCell, deleteOrRestore, importCell, makeCell } from '$lib/cells/cellRequests.js';
  import type { Edit } from '@fadenkreuz/core';
  import Copy from '@lucide/svelte/icons/copy';
  import Download from '@lucide/svelte/icons/download';
  import FilePlus from '@lucide/svelte/icons/file-plus';
  import FileUp from '@lucide/svelte/icons/file-up';
  import Pencil from '@lucide/svelte/icons/pencil';
  import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
  import Trash from '@lucide/svelte/icons/trash';

  let { data } = $props();
  type Line = (typeof data.cells)[number];

  let note = $state('');
  let reading = $state(false);
  /** What is being entered: a new cell, or something of the cell with this id. */
  let entering = $state<{ what: 'new' } | { what: 'copy' | 'change'; id: string }>();
  let deleted = $state<{ id: string; name: string }>();

  const time = (at: Date) =>
    new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' }).format(at);
  /** Names that more than one cell has. */
  const twice = $derived(
    new Set(data.cells.map((c) => c.name).filter((name, i, all) => all.indexOf(name) !== i)),
  );
  const nextName = (name: string): string => {
    const stem = name.replace(/ \(copy(?: \d+)?\)$/, '');
    const taken = new Set(data.cells.map((c) => c.name));
    const names = Array.from({ length: data.cells.length + 1 }, (_, i) =>
      i === 0 ? `${stem} (copy)` : `${stem} (copy ${i + 1})`,
    );
    return names.find((n) => !taken.has(n))!;
  };

  async function take(event: Event & { currentTarget: HTMLInputElement }) {
    const [file] = event.currentTarget.files ?? [];
    event.currentTarget.value = '';
    if (!file) return;
    reading = true;
    note = '';
    const result = await importCell(file);
    if ('id' in result) await goto(`/cells/${result.id}/line-up`);
    else note = `Nothing was stored. ${result.refused}`;
    reading = false;
  }
  async function opened(asked: Promise<{ id: string } | { refused: string }>) {
    const result = await asked;
    if ('refused' in result) return result.refused;
    await goto(`/cells/${result.id}/line-up`);
    return undefined;
  }
  async function change(line: Line, { name, subnet }: { name: string; subnet: string }) {
    const edits: Edit[] = [];
    if (name !== line.name) edits.push({ edit: 'cell.set', set: { name } });
    if (subnet !== line.subnet) edits.push({ edit: 'network.move', subnet });
    const refused = await changeCell(line, data.person, edits);
    await invalidateAll();
    if (!refused) entering = undefined;
    return refused;
  }
  async function remove(line: Line) {
    note = '';
    const refused = await deleteOrRestore(line.id, 'delete');
    if (refused) note = refused;
    else deleted = line;
    await invalidateAll();
  }
  async function restore(id: string) {
    note = (await deleteOrRestore(id, 'restore')) ?? '';
    deleted = undefined;
    await invalidateAll();
  }
  const cancel = () => (entering = undefined);
</script>

<svelte:head><title>Cells · Fadenkreuz</title></svelte:head>

<main class="mx-auto h-screen max-w-6xl overflow-y-auto px-10 py-8">
  <div class="mb-4 flex items-center gap-3">
    <h1 class="text-xl font-semibold">Cells</h1>
    <button class="btn ml-auto btn-primary btn-sm" onclick={() => (entering = { what: 'new' })}
      ><FilePlus size={15} aria-hidden="true" />New cell</button
    >
    <label class="btn btn-sm focus-within:outline-2 focus-within:outline-offset-1">
      <FileUp size={15} aria-hidden="true" />{reading ? 'Reading …' : 'Import a cell file'}
      <input type="file" class="sr-only" accept=".json,application/json" onchange={take} />
    </label>
  </div>
  {#if entering?.what === 'new'}
    <div class="mb-4">
      <CellForm
        title="Create"
        entries={{ name: '', subnet: '192.168.0.0/24', controller: 'plc_1' }}
        take={(entries) => opened(makeCell(entries))}
        oncancel={cancel}
      />
    </div>
  {/if}
  <p class="my-3 empty:hidden" role="status">
    {#if note}{note}{:else if deleted}{@const { id, name } = deleted}Deleted: {name}.
      <button class="btn ml-2 btn-sm" onclick={() => restore(id)}>Restore</button>{/if}
  </p>
  <table class="w-full">
    <thead>
      <tr class="border-b border-base-content/60 text-left text-faint">
        <th class="py-1.5 pr-4 pl-2 font-medium">Name</th>
        <th class="py-1.5 pr-4 font-medium">Subnet</th>
        <th class="py-1.5 pr-4 font-medium">Controller</th>
        <th class="py-1.5 pr-4 text-right font-medium">Devices</th>
        <th class="py-1.5 pr-4 font-medium">Changed</th>
        <th class="py-1.5"><span class="sr-only">What can be done with it</span></th>
      </tr>
    </thead>
    <tbody>
      {#each data.cells as cell (cell.id)}
        <tr class="border-b border-base-300 hover:bg-base-100">
          <td class="py-2 pr-4 pl-2">
            <a class="link font-semibold break-words" href="/cells/{cell.id}/line-up">{cell.name}</a>
            {#if data.onBench === cell.id}<span class="ml-2 text-success">● on the bench</span>{/if}
            {#if twice.has(cell.name)}<span class="block text-faint">made {time(cell.created)}</span>{/if}
          </td>
          <td class="py-2 pr-4 font-mono">{cell.subnet}</td>
          <td class="py-2 pr-4 font-mono break-words">{cell.controller}</td>
          <td class="py-2 pr-4 text-right font-mono">{cell.devices}</td>
          <td class="py-2 pr-4 whitespace-nowrap">{time(cell.changed)}</td>
          <td class="py-1 text-right whitespace-nowrap">
            <button
              class="btn btn-square btn-ghost btn-sm"
              title="Name and subnet"
              aria-label="Name and subnet of {cell.name}"
              onclick={() => (entering = { what: 'change', id: cell.id })}
              ><Pencil size={15} aria-hidden="true" /></button
            >
            <button
              class="btn btn-square btn-ghost btn-sm"
              title="Copy"
              aria-label="Copy {cell.name}"
              onclick={() => (entering = { what: 'copy', id: cell.id })}
              ><Copy size={15} aria-hidden="true" /></button
            >
            <a
              class="btn btn-square btn-ghost btn-sm"
              title="Export the cell file"
              aria-label="Export {cell.name}"
              href="/api/cells/{cell.id}/handover/cell"
              download><Download size={15} aria-hidden="true" /></a
            >
            <button
              class="btn btn-square btn-ghost btn-sm"
              title={data.onBench === cell.id ? 'It runs on the bench' : 'Delete'}
              aria-label="Delete {cell.name}"
              disabled={data.onBench === cell.id}
              onclick={() => remove(cell)}><Trash size={15} aria-hidden="true" /></button
            >
          </td>
        </tr>
        {#if entering && 'id' in entering && entering.id === cell.id}
          <tr>
            <td colspan="6" class="py-2">
              {#if entering.what === 'copy'}
                <CellForm
                  title="Copy"
                  entries={{ name: nextName(cell.name), subnet: cell.subnet }}
                  note="In another subnet every address keeps its host number."
                  take={({ name, subnet }) => opened(copyCell(cell.id, { name, subnet }))}
                  oncancel={cancel}
                />
              {:else}
                <CellForm
                  title="Change"
                  entries={{ name: cell.name, subnet: cell.subnet }}
                  note="In another subnet every address keeps its host number. Undo in the cell takes it back."
                  take={(entries) => change(cell, entries)}
                  oncancel={cancel}
                />
              {/if}
            </td>
          </tr>
        {/if}
      {:else}
        <tr
          ><td colspan="6" class="px-2 py-4 text-faint">No cells. Make a new one, or import a cell file.</td
          ></tr
        >
      {/each}
    </tbody>
  </table>

  {#if data.deleted.length > 0}
    <h2 class="mt-8 mb-1 font-semibold">Deleted</h2>
    <p class="mb-2 text-faint">Kept for {data.keptDays} days.</p>
    <ul class="border-t border-base-300">
      {#each data.deleted as cell (cell.id)}
        <li class="flex items-center gap-4 border-b border-base-300 px-2 py-1.5">
          <span class="break-words">{cell.name}</span>
          <span class="font-mono text-faint">{cell.subnet}</span>
          <span class="text-faint">{cell.devices} devices</span>
          {#if cell.deleted}<span class="text-faint">deleted {time(cell.deleted)}</span>{/if}
          <button class="btn ml-auto btn-sm" aria-label="Restore {cell.name}" onclick={() => restore(cell.id)}
            ><RotateCcw size={15} aria-hidden="true" />Restore</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</main>
