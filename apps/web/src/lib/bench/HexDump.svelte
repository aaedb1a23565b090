<script lang="ts">
  import { rememberedOpen } from '$lib/controls/remembered.svelte.js';

  let { bytes, of }: { bytes: Uint8Array | undefined; of: string } = $props();
  /** Bytes as they came, sixteen in a line with the number of the first; folded, the first line of them. */
  const open = rememberedOpen('bench bytes open', true);
  const perLine = 16;
  const lines = $derived(
    Array.from({ length: Math.ceil((bytes?.length ?? 0) / perLine) }, (_, i) => ({
      from: i * perLine,
      bytes: [...bytes!.subarray(i * perLine, (i + 1) * perLine)],
    })),
  );
  const text = (n: number) => n.toString(16).toUpperCase().padStart(2, '0');
</script>

<details
  class="mb-1 font-mono text-xs text-faint"
  open={open.value}
  ontoggle={({ currentTarget }) => (open.value = currentTarget.open)}
>
  <summary class="cursor-pointer font-sans" aria-label="bytes of the {of}">
    {bytes ? `${bytes.length} bytes` : 'no bytes'}
  </summary>
  <div aria-label="raw bytes">
    {#each lines as { from, bytes: own } (from)}
      <div class="flex flex-wrap gap-x-1.5">
        <span class="w-8 text-right" title="number of the first byte">{from}</span>
        {#each own as byte, i (i)}<span class="text-base-content">{text(byte)}</span>{/each}
      </div>
    {/each}
  </div>
</details>
