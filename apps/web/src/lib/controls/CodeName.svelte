<script lang="ts">
  /**
   * A name as it stands in code: too long for its place, it goes on in the next line behind an underscore, and is never
   * cut off.
   */
  let { name }: { name: string } = $props();
</script>

{#each name.split(/(?<=_)/) as part, i (i)}{part}<wbr />{/each}
