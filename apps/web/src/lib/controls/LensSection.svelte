<script lang="ts">
  import ChevronRight from '@lucide/svelte/icons/chevron-right';
  import type { Snippet } from 'svelte';
  import { untrack } from 'svelte';
  import { rememberedOpen } from './remembered.svelte.js';

  interface Props {
    title: string;
    /** Said beside the title while it is folded. */
    brief?: string;
    /** Whether it is open where nobody has folded or opened it yet. */
    open?: boolean;
    children: Snippet;
  }
  /** A part of the lens that folds; how it was left is remembered by its title. */
  let { title, brief = '', open: usual = true, children }: Props = $props();

  const open = untrack(() => rememberedOpen(`lens:${title}`, usual));
  // Null again once it is gone, which a toggle may outlast.
  let section: HTMLDetailsElement | null;

  function toggle() {
    if (!section || section.open === open.value) return;
    open.value = section.open;
    // What a click opened is in view.
    if (open.value) section.scrollIntoView({ block: 'nearest' });
  }
</script>

<details
  class="mt-3 border-t border-base-300 pt-1.5 first-of-type:border-0"
  bind:this={section}
  open={open.value}
  ontoggle={toggle}
>
  <summary class="lens-summary">
    <ChevronRight size={14} class="shrink-0 transition-transform" aria-hidden="true" />
    <h3 class="shrink-0 font-semibold">{title}</h3>
    {#if brief && !open.value}<span class="min-w-0 grow text-right font-normal wrap-anywhere">{brief}</span
      >{/if}
  </summary>
  {@render children()}
</details>
