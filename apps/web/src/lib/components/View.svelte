<script lang="ts">
  import type { Snippet } from 'svelte';

  /** A view: its main part, and the lens on the right that explains and edits what is chosen there. */
  let { main, lens, lensTitle }: { main: Snippet; lens: Snippet; lensTitle: string } = $props();
</script>

<div class="grid h-full grid-cols-[minmax(0,1fr)_308px] print:block print:h-auto">
  <main class="min-h-0 overflow-auto px-4 py-4 print:overflow-visible print:p-0">{@render main()}</main>
  <aside
    class="min-h-0 overflow-x-hidden overflow-y-auto border-l border-base-300 bg-base-100 p-4 print:hidden"
    aria-label={lensTitle}
  >
    {@render lens()}
  </aside>
</div>
