<script lang="ts">
  import { afterNavigate } from '$app/navigation';
  import { editsText } from '$lib/controls/keys.js';
  import type { Snippet } from 'svelte';

  interface Props {
    title: string;
    onclose: () => void;
    /** Width, such as `w-[30rem]`. */
    class: string;
    children: Snippet;
  }
  /** What opens over a view, beside its lens and above the strip; Esc closes it, and so does going to another view. */
  let { title, onclose, class: width, children }: Props = $props();
  afterNavigate(({ from, to, type }) => {
    if (type !== 'enter' && from?.url.pathname !== to?.url.pathname) onclose();
  });

  function keydown(event: KeyboardEvent) {
    if (event.key !== 'Escape' || editsText(event)) return;
    event.preventDefault();
    onclose();
  }
</script>

<svelte:window onkeydown={keydown} />

<aside
  class={[
    'fixed right-[316px] bottom-12 z-40 max-h-[70vh] overflow-y-auto rounded-box border border-base-content bg-base-100 p-4',
    width,
  ]}
  aria-label={title}
>
  <div class="mb-2 flex items-baseline justify-between">
    <h2 class="font-semibold">{title}</h2>
    <button class="cursor-pointer underline" onclick={onclose}>Close</button>
  </div>
  {@render children()}
</aside>
