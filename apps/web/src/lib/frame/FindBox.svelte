<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import Search from '@lucide/svelte/icons/search';
  import { onMount } from 'svelte';
  import { tinykeys } from 'tinykeys';
  import { deskKeys } from '$lib/controls/keys.js';
  import { page } from '$app/state';
  import { findHits, type Hit, type OtherCell } from './find.js';
  import { follow } from './follow.js';

  const desk = useDesk();
  const others = $derived((page.data['others'] ?? []) as readonly OtherCell[]);
  const maximum = 14;
  let text = $state('');
  let open = $state(false);
  let chosen = $state(0);
  let input: HTMLInputElement;

  const commands: Hit<() => void>[] = $derived([
    {
      title: 'Start the bench',
      detail: 'command',
      go: () => void desk.ask('POST', '', { cell: desk.cell.id }),
    },
    { title: 'Stop the bench', detail: 'command', go: () => void desk.ask('DELETE', '') },
    { title: 'Undo', detail: desk.undoTitle ?? 'nothing to undo', go: () => desk.undo() },
    { title: 'Redo', detail: desk.redoTitle ?? 'nothing to redo', go: () => desk.redo() },
  ]);
  const hits: Hit<() => void>[] = $derived.by(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    const own = commands.filter(({ title }) => words.every((word) => title.toLowerCase().includes(word)));
    const found = findHits(desk.cell, desk.findings, text, desk.crosshair?.image, others);
    return [...own, ...found.map((hit) => ({ ...hit, go: () => follow(desk, hit.go) }))].slice(0, maximum);
  });

  function take(hit: Hit<() => void> | undefined) {
    hit?.go();
    text = '';
    open = false;
    input.blur();
  }
  function keydown(event: KeyboardEvent) {
    if (event.key === 'ArrowDown') chosen = Math.min(chosen + 1, hits.length - 1);
    else if (event.key === 'ArrowUp') chosen = Math.max(chosen - 1, 0);
    else if (event.key === 'Enter') take(hits[chosen]);
    else if (event.key === 'Escape') take(undefined);
    else return;
    event.preventDefault();
  }

  onMount(() =>
    tinykeys(window, {
      [deskKeys.find]: (event) => {
        event.preventDefault();
        input.focus();
      },
    }),
  );
</script>

<div class="relative w-[25rem] shrink">
  <label class="flex h-8 items-center gap-2 rounded-field border border-base-300 bg-base-100 px-2.5">
    <Search size={16} aria-hidden="true" />
    <input
      bind:this={input}
      bind:value={text}
      class="min-w-0 grow bg-transparent outline-none placeholder:text-faint"
      placeholder="Find or do"
      role="combobox"
      aria-label="Find a bit, address, device or command"
      aria-expanded={open}
      aria-controls="find-hits"
      aria-activedescendant={open && hits[chosen] ? `find-hit-${chosen}` : undefined}
      onfocus={() => ((open = true), (chosen = 0))}
      onblur={() => (open = false)}
      oninput={() => (chosen = 0)}
      onkeydown={keydown}
    />
    <kbd class="rounded-sm border border-base-300 px-1.5 font-mono text-xs text-faint">Ctrl K</kbd>
  </label>
  {#if open}
    <ul
      id="find-hits"
      role="listbox"
      aria-label="What was found"
      class="absolute inset-x-0 top-9 z-50 overflow-hidden rounded-box border border-base-content bg-base-100 py-1"
    >
      {#each hits as hit, i (i)}
        <li
          id="find-hit-{i}"
          role="option"
          aria-selected={i === chosen}
          class={['flex cursor-pointer justify-between gap-3 px-3 py-1', i === chosen && 'bg-base-200']}
          onpointerdown={(event) => (event.preventDefault(), take(hit))}
        >
          <span class="max-w-[72%] min-w-0 shrink-0 font-mono break-words">{hit.title}</span><span
            class="min-w-0 wrap-anywhere text-faint">{hit.detail}</span
          >
        </li>
      {:else}
        <li class="px-3 py-1 text-faint">Nothing of this name.</li>
      {/each}
    </ul>
  {/if}
</div>
