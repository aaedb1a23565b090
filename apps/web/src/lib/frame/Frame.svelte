<script lang="ts">
  import { preloadCode } from '$app/navigation';
  import { page } from '$app/state';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import Activity from '@lucide/svelte/icons/activity';
  import ArrowLeftRight from '@lucide/svelte/icons/arrow-left-right';
  import Cog from '@lucide/svelte/icons/cog';
  import CircleAlert from '@lucide/svelte/icons/circle-alert';
  import Crosshair from '@lucide/svelte/icons/crosshair';
  import Network from '@lucide/svelte/icons/network';
  import PackageOpen from '@lucide/svelte/icons/package-open';
  import Redo2 from '@lucide/svelte/icons/redo-2';
  import ShieldCheck from '@lucide/svelte/icons/shield-check';
  import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
  import SunMoon from '@lucide/svelte/icons/sun-moon';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import { onMount, type Snippet } from 'svelte';
  import { tinykeys } from 'tinykeys';
  import FindBox from './FindBox.svelte';
  import KeyList from './KeyList.svelte';
  import Strip from './Strip.svelte';
  import InPlace from '$lib/controls/InPlace.svelte';
  import { deskKeys, editsText } from '$lib/controls/keys.js';

  let { children }: { children: Snippet } = $props();
  const desk = useDesk();

  const views = [
    { path: 'line-up', title: 'Line-up', icon: Network },
    { path: 'sight', title: 'Sight', icon: Crosshair },
    { path: 'parameters', title: 'Parameters', icon: SlidersHorizontal },
    { path: 'bench', title: 'Bench', icon: Activity },
    { path: 'exchanges', title: 'Exchanges', icon: ArrowLeftRight },
    { path: 'motion', title: 'Motion', icon: Cog },
    { path: 'safety', title: 'Safety', icon: ShieldCheck },
    { path: 'hand-over', title: 'Hand-over', icon: PackageOpen },
  ];
  const base = $derived(`/cells/${desk.cell.id}`);
  let showKeys = $state(false);

  function turnTheme() {
    const theme = document.documentElement.dataset.theme === 'lamp' ? 'paper' : 'lamp';
    document.documentElement.dataset.theme = theme;
    localStorage.setItem('theme', theme);
  }

  // Views already loaded can be changed while the web server is away. Where a person stays, the others are loaded
  // one after the other, so that they hold up nothing.
  const staysAfter = 10_000;
  onMount(() => {
    const staying = setTimeout(async () => {
      // One that does not come, because the server is away just then, is fetched when it is opened.
      for (const { path } of views) await preloadCode(`${base}/${path}`).catch(() => undefined);
    }, staysAfter);
    return () => clearTimeout(staying);
  });

  onMount(() =>
    tinykeys(window, {
      [deskKeys.undo]: (event) => editsText(event) || (event.preventDefault(), desk.undo()),
      [deskKeys.redo]: (event) => editsText(event) || (event.preventDefault(), desk.redo()),
      [deskKeys.keys]: (event) => editsText(event) || (showKeys = !showKeys),
    }),
  );
</script>

<div
  class="grid h-screen grid-cols-[72px_1fr] grid-rows-[44px_minmax(0,1fr)_auto_minmax(34px,auto)] print:block print:h-auto"
>
  <nav
    class="row-span-4 flex flex-col items-center gap-1 border-r border-base-300 py-2 print:hidden"
    aria-label="Views"
  >
    <a
      href="/cells"
      class="mb-1 flex w-18 flex-col items-center rounded-box py-1 text-xs text-faint hover:text-base-content"
      title="All cells: new, copy, delete, import, export"
    >
      <svg
        viewBox="0 0 32 32"
        class="size-8 text-base-content"
        fill="none"
        stroke="currentColor"
        stroke-width="2.6"
        aria-hidden="true"
      >
        <circle cx="16" cy="16" r="10" />
        <path d="M16 2v9M16 21v9M2 16h9M21 16h9" />
        <circle cx="16" cy="16" r="2.2" class="fill-accent" stroke="none" />
      </svg>Cells
    </a>
    {#each views as { path, title, icon: Icon } (path)}
      {@const here = page.url.pathname.startsWith(`${base}/${path}`)}
      <a
        href="{base}/{path}"
        aria-current={here ? 'page' : undefined}
        class={[
          'flex w-[68px] flex-col items-center gap-0.5 rounded-box border py-1.5 text-xs whitespace-nowrap',
          here
            ? 'border-base-300 bg-base-100 font-semibold'
            : 'border-transparent text-faint hover:text-base-content',
        ]}
      >
        <Icon size={20} strokeWidth={1.8} aria-hidden="true" />{title}
      </a>
    {/each}
  </nav>

  <header class="flex min-w-0 items-center gap-3 border-b border-base-300 px-3.5 print:hidden">
    <InPlace
      class="max-w-full text-[15px] font-semibold"
      label="name of the cell"
      value={desk.cell.name}
      style="width: calc({desk.cell.name.length}ch + 1rem)"
      take={(name) => desk.edit({ edit: 'cell.set', set: { name: name.trim() } })}
    />
    <span class="whitespace-nowrap text-faint">
      {desk.cell.devices.length} devices · <span class="font-mono">{desk.cell.network.subnet}</span>
    </span>
    <div class="ml-auto flex items-center gap-1">
      <button
        class="btn btn-square btn-ghost btn-sm"
        disabled={!desk.undoTitle}
        title={desk.undoTitle ? `Undo: ${desk.undoTitle}` : 'Nothing to undo'}
        aria-label={desk.undoTitle ? `Undo: ${desk.undoTitle}` : 'Undo'}
        onclick={() => desk.undo()}><Undo2 size={16} aria-hidden="true" /></button
      >
      <button
        class="btn btn-square btn-ghost btn-sm"
        disabled={!desk.redoTitle}
        title={desk.redoTitle ? `Redo: ${desk.redoTitle}` : 'Nothing to redo'}
        aria-label={desk.redoTitle ? `Redo: ${desk.redoTitle}` : 'Redo'}
        onclick={() => desk.redo()}><Redo2 size={16} aria-hidden="true" /></button
      >
      <button
        class="btn btn-square btn-ghost btn-sm"
        title="Paper or lamp"
        aria-label="Paper or lamp"
        onclick={turnTheme}><SunMoon size={16} aria-hidden="true" /></button
      >
    </div>
    <FindBox />
  </header>

  <div class="min-h-0 min-w-0">{@render children()}</div>

  <!-- A row of its own: a message covers nothing that one works on. -->
  <div class="min-w-0 print:hidden" aria-live="polite">
    {#if desk.note}
      <div class="flex items-start gap-3 border-t border-base-content bg-base-100 px-4 py-2.5" role="status">
        <CircleAlert size={18} class="mt-0.5 shrink-0" aria-hidden="true" />
        <p class="min-w-0 grow">{desk.note.says} <span class="text-faint">{desk.note.cure}</span></p>
        {#if desk.note.action}
          {@const { title, go } = desk.note.action}
          <button class="btn shrink-0 btn-sm" onclick={go}>{title}</button>
        {/if}
        <button class="shrink-0 cursor-pointer underline" onclick={() => (desk.note = null)}>Dismiss</button>
      </div>
    {/if}
  </div>

  <Strip />
</div>

{#if showKeys}<KeyList onclose={() => (showKeys = false)} />{/if}
