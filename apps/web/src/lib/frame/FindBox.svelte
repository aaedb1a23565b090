<script lang="ts">
  import { goto } from '$app/navigation';
  import {
    allImages,
    bitOfAddress,
    bothSides,
    imageTitle,
    Problem,
    sceneOf,
    signalsOf,
    type Signal,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import Search from '@lucide/svelte/icons/search';
  import { onMount } from 'svelte';
  import { tinykeys } from 'tinykeys';
  import { deskKeys } from '$lib/controls/keys.js';

  interface Hit {
    title: string;
    detail: string;
    go: () => void;
  }

  const desk = useDesk();
  const maximum = 12;
  let text = $state('');
  let open = $state(false);
  let chosen = $state(0);
  let input: HTMLInputElement;

  const base = $derived(`/cells/${desk.cell.id}`);
  const toBit = (image: string, bit: number) => () => {
    desk.crosshair = { image, bit };
    void goto(`${base}/sight`);
  };

  const commands: Hit[] = $derived([
    {
      title: 'Start the bench',
      detail: 'command',
      go: () => void desk.ask('POST', '', { cell: desk.cell.id }),
    },
    { title: 'Stop the bench', detail: 'command', go: () => void desk.ask('DELETE', '') },
    { title: 'Undo', detail: desk.undoTitle ?? 'nothing to undo', go: () => desk.undo() },
    { title: 'Redo', detail: desk.redoTitle ?? 'nothing to redo', go: () => desk.redo() },
    ...['line-up', 'sight', 'sight/table', 'sight/compare', 'sight/print', 'bench', 'hand-over'].map(
      (view) => ({
        title: `Go to ${view.replace('/', ', ')}`,
        detail: 'view',
        go: () => void goto(`${base}/${view}`),
      }),
    ),
  ]);

  /** What the text means as an address: in the image under the crosshair; a direct address in every image. */
  function addressHits(): Hit[] {
    if (!/\d/.test(text)) return [];
    const direct = text.trim().startsWith('%');
    return allImages(desk.cell)
      .filter(({ image }) => direct || image.id === desk.crosshair?.image)
      .flatMap((place) => {
        const scene = sceneOf(desk.cell, place);
        try {
          const bit = bitOfAddress(text, scene);
          const { controller, device } = bothSides(scene, bit);
          const title = `${controller.text} ↔ ${device.text}`;
          const detail = imageTitle(place.device, place.image.direction);
          return [{ title, detail, go: toBit(place.image.id, bit) }];
        } catch (error) {
          if (error instanceof Problem) return [];
          throw error;
        }
      });
  }

  /** Texts of a signal that its name does not say: labels of values and of bits, unit, note. */
  const meanings = (signal: Signal) =>
    [...signal.labels, ...signal.bitLabels].map((l) => l.text).concat(signal.unit, signal.note);

  const hits: Hit[] = $derived.by(() => {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    if (words.length === 0) return commands;
    const fits = (...texts: string[]) => {
      const all = texts.join(' ').toLowerCase();
      return words.every((word) => all.includes(word));
    };
    const images = allImages(desk.cell);
    const imageHits = images
      .filter(({ device, image }) => fits(imageTitle(device, image.direction), `instance ${image.instance}`))
      .map(({ device, image }) => ({
        title: imageTitle(device, image.direction),
        detail: `instance ${image.instance}, ${image.size} bytes`,
        go: toBit(image.id, 0),
      }));
    const signalHits: Hit[] = [];
    for (const place of images) {
      const { device, image } = place;
      const scene = sceneOf(desk.cell, place);
      for (const signal of signalsOf(image)) {
        if (signalHits.length >= maximum) break;
        if (!fits(signal.name, device.name, image.direction, ...meanings(signal))) continue;
        const label = meanings(signal).find((m) => m && words.some((word) => m.toLowerCase().includes(word)));
        const address =
          signal.at < image.size * 8 ? bothSides(scene, signal.at).controller.text : 'past the end';
        signalHits.push({
          title: signal.name,
          detail: [`${device.name} ${image.direction} · ${address}`, label].filter(Boolean).join(' · '),
          go: toBit(image.id, signal.at),
        });
      }
    }
    const commandHits = commands.filter((hit) => fits(hit.title, hit.detail));
    return [...addressHits(), ...imageHits, ...signalHits, ...commandHits].slice(0, maximum);
  });

  function take(hit: Hit | undefined) {
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
      placeholder="Find a bit, address, device or command"
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
          <span class="truncate font-mono">{hit.title}</span><span class="truncate text-faint"
            >{hit.detail}</span
          >
        </li>
      {:else}
        <li class="px-3 py-1 text-faint">Nothing of this name.</li>
      {/each}
    </ul>
  {/if}
</div>
