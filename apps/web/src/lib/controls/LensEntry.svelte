<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import InPlace from './InPlace.svelte';

  /** A row of the lens: what it is on the left, its value, edited where it stands, on the right. */
  type Props = { title: string; label?: string } & Omit<ComponentProps<typeof InPlace>, 'label'>;
  let { title, label = title, element = $bindable(), class: className, ...rest }: Props = $props();
</script>

<label class="lens-row">
  {title}<InPlace class={['text-right', className]} {label} bind:element {...rest} />
</label>
