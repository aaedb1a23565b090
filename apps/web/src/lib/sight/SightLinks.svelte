<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import WaysLinks from '$lib/controls/WaysLinks.svelte';

  /** The ways to look at an image. */
  let { here }: { here: '' | '/table' | '/compare' | '/print' } = $props();
  const desk = useDesk();

  const ways = [
    { path: '', title: 'Tape' },
    { path: '/table', title: 'Table' },
    { path: '/compare', title: 'Compare' },
    { path: '/print', title: 'Print' },
  ];
</script>

<WaysLinks label="ways to look at the image" base="/cells/{desk.cell.id}/sight" {ways} {here} />
