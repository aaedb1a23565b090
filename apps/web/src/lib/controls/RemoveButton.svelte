<script lang="ts">
  import X from '@lucide/svelte/icons/x';

  /** The cross at a line that takes it out of its list. */
  interface Props {
    /** What goes, as it is read aloud: 'remove order 2'. */
    label: string;
    title?: string;
    onclick: () => void;
    class?: string;
  }
  let { label, title, onclick, class: more = '' }: Props = $props();
</script>

<button
  class={['inline-grid size-[24px] shrink-0 cursor-pointer place-items-center align-middle text-faint', more]}
  aria-label={label}
  {title}
  {onclick}><X size={13} aria-hidden="true" /></button
>
