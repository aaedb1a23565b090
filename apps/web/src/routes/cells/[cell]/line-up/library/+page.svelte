<script lang="ts">
  import DescriberForm from '$lib/library/DescriberForm.svelte';
  import LibraryCompare from '$lib/library/LibraryCompare.svelte';
  import LineUpLinks from '$lib/line-up/LineUpLinks.svelte';
  import View from '$lib/frame/View.svelte';
  import { goto } from '$app/navigation';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { libraryFile, searchLibrary, type LibraryLine } from '$lib/library/library.js';
  import { send } from '$lib/desk/send.js';
  import FileText from '@lucide/svelte/icons/file-text';

  const desk = useDesk();
  let text = $state('');
  let lines = $state.raw<LibraryLine[]>([]);
  let loaded = $state(false);
  let chosen = $state<string>();
  let file = $state.raw<File>();
  let refused = $state.raw<{ says: string; cure: string }>();

  async function search(words: string) {
    try {
      const found = await searchLibrary(words);
      if (words !== text) return;
      lines = found;
      refused = undefined;
    } catch (error) {
      refused = { says: (error as Error).message, cure: '' };
    }
    loaded = true;
  }
  $effect(() => {
    const words = text;
    const timer = setTimeout(() => void search(words), words ? 200 : 0);
    return () => clearTimeout(timer);
  });

  const line = $derived(lines.find((l) => l.id === chosen));
  async function choose(next: LibraryLine) {
    chosen = next.id;
    file = undefined;
    file = await libraryFile(next);
  }
  async function take(files: FileList | null) {
    for (const one of files ?? []) {
      const answer = await send('POST', `/api/library?name=${encodeURIComponent(one.name)}`, undefined, one);
      refused = answer.ok ? undefined : { ...answer.problem, says: `${one.name}: ${answer.problem.says}` };
    }
    await search(text);
  }
  async function remove(id: string) {
    await send('DELETE', `/api/library/${id}`);
    chosen = undefined;
    file = undefined;
    await search(text);
  }
</script>

<View lensTitle="Describer">
  {#snippet main()}
    <div class="mb-3 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Line-up</h1>
      <LineUpLinks here="/library" />
      <label class="btn ml-auto btn-sm focus-within:outline-2"
        ><FileText size={15} aria-hidden="true" />Take files in<input
          type="file"
          multiple
          class="sr-only"
          accept=".eds,.txt,.xml,.zip,.json"
          onchange={({ currentTarget }) => {
            void take(currentTarget.files).then(() => (currentTarget.value = ''));
          }}
        /></label
      >
    </div>
    <label class="mb-3 flex items-center gap-2"
      >find<input
        class="input flex-1 input-sm"
        type="search"
        bind:value={text}
        placeholder="maker, kind, protocol, order number"
      /></label
    >
    {#if refused}
      <p role="alert" class="mb-2 text-error">
        {refused.says} <span class="text-faint">{refused.cure}</span>
      </p>
    {/if}
    <table class="w-full border-collapse">
      <thead>
        <tr class="border-b border-base-content/60 text-left text-xs text-faint">
          <th class="py-1.5 pl-2 font-medium">maker</th>
          <th class="font-medium">product</th>
          <th class="font-medium">revision</th>
          <th class="font-medium">protocol</th>
          <th class="font-medium">order number</th>
          <th class="font-medium">file</th>
        </tr>
      </thead>
      <tbody>
        {#each lines as l (l.id)}
          <tr
            class={['border-b border-base-300', l.id === chosen ? 'bg-base-100' : 'hover:bg-base-100/60']}
            aria-selected={l.id === chosen}
            onclick={() => choose(l)}
          >
            <td class="py-1.5 pl-2">{l.maker}</td>
            <td>
              <button class="cursor-pointer text-left font-semibold" onclick={() => choose(l)}
                >{l.title}</button
              >
              {#if l.kind}<span class="block text-xs text-faint">{l.kind}</span>{/if}
            </td>
            <td class="font-mono">{l.revision}</td>
            <td class="whitespace-nowrap">{l.protocol}</td>
            <td class="max-w-36 min-w-0 font-mono wrap-anywhere" title={l.orderNumbers.join(', ')}
              >{l.orderNumbers.join(', ')}</td
            >
            <td class="max-w-40 min-w-0 font-mono text-xs wrap-anywhere text-faint" title={l.fileName}
              >{l.fileName}</td
            >
          </tr>
        {:else}
          <tr
            ><td colspan="6" class="py-3 pl-2 text-faint"
              >{loaded
                ? 'Nothing is found. Take description files in, or search for less.'
                : 'The library is being read.'}</td
            ></tr
          >
        {/each}
      </tbody>
    </table>
  {/snippet}
  {#snippet lens()}
    {#if file && line}
      {#key line.id}
        <DescriberForm
          {file}
          ondone={() => goto(`/cells/${desk.cell.id}/line-up`)}
          oncancel={() => ((chosen = undefined), (file = undefined))}
        >
          {#snippet actions(describer)}
            <LibraryCompare {line} {lines} {describer} />
            <div class="mt-4 flex gap-2">
              <a class="btn btn-sm" href="/api/library/{line.id}" download>Take the file away</a>
              <button class="btn btn-sm" onclick={() => remove(line.id)}>Remove it</button>
            </div>
          {/snippet}
        </DescriberForm>
      {/key}
    {:else}
      <h2 class="text-lg font-semibold">Describer</h2>
      <p class="mt-1 text-faint">
        What is known of kinds of device, for all cells: data sheets (EDS), PROFINET and IO-Link descriptions,
        and devices that somebody laid out from a manual.
      </p>
    {/if}
  {/snippet}
</View>
