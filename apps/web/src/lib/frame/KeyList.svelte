<script lang="ts">
  import { keyList } from '$lib/controls/keys.js';
  import Panel from './Panel.svelte';

  let { onclose }: { onclose: () => void } = $props();
</script>

<Panel title="Keys" class="w-[30rem]" {onclose}>
  <dl class="grid grid-cols-[8.5rem_1fr] gap-y-1.5">
    {#each keyList as { keys, does } (keys)}
      <dt class="font-mono">{keys}</dt>
      <dd class="text-faint">{does}</dd>
    {/each}
  </dl>
</Panel>
