<script lang="ts">
  import type { Stored } from '$lib/api/changes.js';
  import { Desk, provideDesk } from '$lib/desk/desk.svelte.js';
  import { onMount, untrack, type ComponentProps, type Snippet } from 'svelte';
  import Frame from './Frame.svelte';

  type Props = { stored: Stored; person: string; children: Snippet } & Partial<ComponentProps<typeof Frame>>;
  let { stored, person, children }: Props = $props();

  const desk = provideDesk(untrack(() => new Desk(stored, person)));
  onMount(() => desk.listen());
</script>

<svelte:head><title>{desk.cell.name} · Fadenkreuz</title></svelte:head>

<Frame>{@render children()}</Frame>
