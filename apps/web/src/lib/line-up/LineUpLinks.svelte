<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import WaysLinks from '$lib/controls/WaysLinks.svelte';

  /** The ways to look at the line-up. */
  let { here }: { here: '' | '/reticle' | '/wire' | '/addresses' | '/library' } = $props();
  const desk = useDesk();

  const ways = [
    { path: '', title: 'Table' },
    { path: '/reticle', title: 'Reticle' },
    { path: '/wire', title: 'Wire' },
    { path: '/addresses', title: 'Addresses' },
    { path: '/library', title: 'Library' },
  ];
</script>

<WaysLinks label="ways to look at the line-up" base="/cells/{desk.cell.id}/line-up" {ways} {here} />
