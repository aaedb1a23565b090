<script lang="ts">
  import ChevronDown from '@lucide/svelte/icons/chevron-down';
  import type { Snippet } from 'svelte';
  import type { ClassValue, HTMLSelectAttributes } from 'svelte/elements';

  /** A choice whose text goes on in the next line: a list as the browser has it, under a text that shows all of it. */
  type Props = {
    /** What is chosen, in full. */
    text: string;
    children: Snippet;
    class?: ClassValue;
  } & Omit<HTMLSelectAttributes, 'class'>;
  let { text, children, value = $bindable(), class: className, ...rest }: Props = $props();
</script>

<span
  class={[
    'relative inline-flex items-center gap-1.5 rounded-sm px-1 py-0.5 hover:outline hover:outline-base-300',
    'has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-base-content',
    className,
  ]}
>
  <span class="min-w-0 wrap-anywhere whitespace-normal" aria-hidden="true">{text}</span>
  <ChevronDown size={14} class="shrink-0" aria-hidden="true" />
  <select class="absolute inset-0 size-full cursor-pointer opacity-0" bind:value {...rest}
    >{@render children()}</select
  >
</span>
