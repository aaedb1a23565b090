<script lang="ts">
  import type { HTMLInputAttributes } from 'svelte/elements';

  /**
   * A value that is edited where it stands. Enter or leaving takes it over, Escape does not; one that `take` refuses
   * goes back to what was stored.
   */
  type Props = {
    value: string;
    take: (text: string) => boolean;
    label: string;
    element?: HTMLInputElement | undefined;
  } & Omit<HTMLInputAttributes, 'value'>;
  let { value, take, label, element = $bindable(), class: className, ...rest }: Props = $props();
  // Undefined while nobody types: what is being typed must outlive news from the server.
  let typed = $state<string | undefined>();

  function done() {
    const text = typed;
    typed = undefined;
    if (text !== undefined && text !== value) take(text);
  }
  function keydown(event: KeyboardEvent & { currentTarget: HTMLInputElement }) {
    if (event.key === 'Escape') typed = undefined;
    if (event.key === 'Enter' || event.key === 'Escape') event.currentTarget.blur();
  }
</script>

<input
  class={['inplace', className]}
  aria-label={label}
  title={typed ?? value}
  spellcheck="false"
  autocomplete="off"
  bind:this={element}
  value={typed ?? value}
  oninput={(event) => (typed = event.currentTarget.value)}
  onblur={done}
  onkeydown={keydown}
  {...rest}
/>
