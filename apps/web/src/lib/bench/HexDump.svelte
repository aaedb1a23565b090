<script lang="ts">
  import InPlace from '$lib/controls/InPlace.svelte';
  import { rememberedOpen } from '$lib/controls/remembered.svelte.js';

  interface Props {
    bytes: Uint8Array | undefined;
    of: string;
    /** Writes bytes, from one on; undefined where nothing may be written. */
    write?: ((at: number, bytes: number[]) => boolean) | undefined;
  }
  let { bytes, of, write }: Props = $props();
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
  /** Two hexadecimal digits, as the byte is shown; several for those that follow. */
  function take(at: number, typed: string): boolean {
    const parts = typed.trim().split(/[\s,]+/);
    if (!parts.every((part) => /^[0-9a-f]{1,2}$/i.test(part))) return false;
    return write!(
      at,
      parts.map((part) => parseInt(part, 16)),
    );
  }
</script>

<details
  class="mb-1 font-mono text-xs text-faint"
  open={open.value}
  ontoggle={({ currentTarget }) => (open.value = currentTarget.open)}
>
  <summary
    class="cursor-pointer font-sans"
    title={write ? 'hexadecimal; several, as 06 00 01, go to those behind it as well' : ''}
  >
    {bytes ? `${bytes.length} bytes` : 'no bytes'}{write ? '; type over one to write it' : ''}<span
      class="sr-only"
    >
      of the {of}</span
    >
  </summary>
  <div role="group" aria-label="raw bytes">
    {#each lines as { from, bytes: own } (from)}
      <div class="flex flex-wrap gap-x-1.5">
        <span class="w-8 text-right" title="number of the first byte">{from}</span>
        {#each own as byte, i (i)}
          {#if write}
            <InPlace
              class="w-[3.4ch] px-0! text-center text-xs text-base-content"
              value={text(byte)}
              label="write byte {from + i} of the {of}"
              take={(typed) => take(from + i, typed)}
            />
          {:else}<span class="text-base-content">{text(byte)}</span>{/if}
        {/each}
      </div>
    {/each}
  </div>
</details>
