<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';

  /**
   * A value that is edited where it stands. Enter or leaving takes it over, Escape does not; one that `take` refuses
   * (false) goes back to what was stored.
   */
  type Props = { value: string; take: (text: string) => boolean; label: string; element?: HTMLInputElement | undefined } & Omit<
    HTMLInputAttributes,
    'value'
  >;
  let { value, take, label, element = $bindable(), class: className, ...rest }: Props = $props();
  let text = $derived(value);

  function done() {
    if (text !== value && !take(text)) text = value;
  }
  function keydown(event: KeyboardEvent) {
    if (event.key === 'Enter') (event.target as HTMLInputElement).blur();
    if (event.key === 'Escape') {
      text = value;
      (event.target as HTMLInputElement).blur();
    }
  }
</script>

<input
  class={['inplace', className]}
  aria-label={label}
  spellcheck="false"
  autocomplete="off"
  bind:this={element}
  bind:value={text}
  onblur={done}
  onkeydown={keydown}
  {...rest}
/>
