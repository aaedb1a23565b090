<script lang="ts">
  import type { HTMLInputAttributes, HTMLTextareaAttributes } from 'svelte/elements';

  /**
   * A value that is edited where it stands. Enter or leaving takes it over, Escape does not; one that `take` refuses
   * goes back to what was stored.
   */
  type Props = {
    value: string;
    take: (text: string) => boolean;
    label: string;
    element?: HTMLInputElement | HTMLTextAreaElement | undefined;
    /** A long text goes on in the next line, instead of being cut. */
    wraps?: boolean;
  } & Omit<HTMLInputAttributes, 'value'>;
  let {
    value,
    take,
    label,
    element = $bindable(),
    wraps = false,
    class: className,
    ...rest
  }: Props = $props();
  // Undefined while nobody types: what is being typed must outlive news from the server.
  let typed = $state<string | undefined>();

  function done() {
    const text = typed;
    typed = undefined;
    if (text !== undefined && text !== value) take(text);
  }
  function keydown(event: KeyboardEvent & { currentTarget: HTMLElement }) {
    if (event.key === 'Escape') typed = undefined;
    if (event.key !== 'Enter' && event.key !== 'Escape') return;
    event.preventDefault();
    event.currentTarget.blur();
  }
  const common = $derived({
    'aria-label': label,
    title: typed ?? value,
    spellcheck: false,
    autocomplete: 'off',
    value: typed ?? value,
    onblur: done,
    onkeydown: keydown,
  } as const);
</script>

{#if wraps}
  <textarea
    {...common}
    class={['inplace block [field-sizing:content] resize-none wrap-anywhere', className]}
    rows="1"
    bind:this={element}
    oninput={(event) => (typed = event.currentTarget.value.replace(/\n/g, ' '))}
    {...rest as HTMLTextareaAttributes}></textarea>
{:else}
  <input
    {...common}
    class={['inplace', className]}
    bind:this={element}
    oninput={(event) => (typed = event.currentTarget.value)}
    {...rest}
  />
{/if}
