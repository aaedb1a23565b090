<script lang="ts">
  import CellDesk from '$lib/frame/CellDesk.svelte';

  let { data, children } = $props();
</script>

<!-- Another cell gets a desk of its own. -->
{#key data.stored.cell.id}
  <CellDesk stored={data.stored} person={data.person}>{@render children()}</CellDesk>
{/key}
