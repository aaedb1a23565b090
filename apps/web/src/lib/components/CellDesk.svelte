<script lang="ts">
  import { Desk, provideDesk } from '$lib/desk/desk.svelte.js';
  import { onMount, untrack, type ComponentProps, type Snippet } from 'svelte';
  import Frame from './Frame.svelte';

  type Props = { stored: ConstructorParameters<typeof Desk>[0]; children: Snippet } & Partial<
    ComponentProps<typeof Frame>
  >;
  let { stored, children }: Props = $props();

  const desk = provideDesk(untrack(() => new Desk(stored)));
  onMount(() => desk.listen());
</script>

<svelte:head><title>{desk.cell.name} · Fadenkreuz</title></svelte:head>

<Frame>{@render children()}</Frame>
