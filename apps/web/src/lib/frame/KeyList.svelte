<script lang="ts">
  import { keyList } from '$lib/controls/keys.js';

  let { onclose }: { onclose: () => void } = $props();
</script>

<aside
  class="fixed right-4 bottom-12 z-40 w-[30rem] rounded-box border border-base-content bg-base-100 p-4"
  aria-label="Keys"
>
  <div class="mb-2 flex items-baseline justify-between">
    <h2 class="font-semibold">Keys</h2>
    <button class="cursor-pointer underline" onclick={onclose}>Close</button>
  </div>
  <dl class="grid grid-cols-[8.5rem_1fr] gap-y-1.5">
    {#each keyList as { keys, does } (keys)}
      <dt class="font-mono">{keys}</dt>
      <dd class="text-faint">{does}</dd>
    {/each}
  </dl>
</aside>
