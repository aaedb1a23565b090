<script lang="ts">
  import { onMount, type Snippet } from 'svelte';
  import { tinykeys } from 'tinykeys';
  import { deskKeys } from '$lib/controls/keys.js';

  /** A view: its main part, and the lens on the right that explains and edits what is chosen there. */
  let { main, lens, lensTitle }: { main: Snippet; lens: Snippet; lensTitle: string } = $props();

  let pane: HTMLElement;
  /** Where the keyboard was before it went into the lens. */
  let left: HTMLElement | undefined;
  const reachable = 'input, select, button, a[href], summary, [tabindex]';

  function changePane(event: KeyboardEvent) {
    event.preventDefault();
    if (pane.contains(document.activeElement)) {
      left?.focus();
      return;
    }
    left = document.activeElement as HTMLElement;
    // What is edited comes first; a heading that folds is one step back.
    const all = [...pane.querySelectorAll<HTMLElement>(reachable)].filter((e) => e.checkVisibility());
    (all.find((e) => !e.matches('.lens-summary')) ?? all[0])?.focus();
  }
  onMount(() => tinykeys(window, { [deskKeys.otherPane]: changePane }));
</script>

<div class="grid h-full grid-cols-[minmax(0,1fr)_308px] print:block print:h-auto">
  <main class="min-h-0 overflow-auto px-4 py-4 print:overflow-visible print:p-0">{@render main()}</main>
  <aside
    class="min-h-0 overflow-x-hidden overflow-y-auto border-l border-base-300 bg-base-100 p-4 print:hidden"
    aria-label={lensTitle}
    bind:this={pane}
  >
    {@render lens()}
  </aside>
</div>
