<script lang="ts">
  import { bytesOfHex, protocolOf, type Device, type Parameter } from '@fadenkreuz/core';
  import type { Frame } from '$lib/api/parameters.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  interface Props {
    device: Device;
    parameter: Parameter;
    /** Rises with each request. */
    at: number;
  }
  /** What stood on the wire when a parameter was asked for last, byte by byte as its standard calls them. */
  let { device, parameter, at }: Props = $props();
  const desk = useDesk();
  let open = $state(false);
  let frames = $state.raw<readonly Frame[]>([]);
  $effect(() => {
    void at;
    if (!open) return;
    void desk.parameters.framesOf(device.id, parameter.id).then((heard) => (frames = heard));
  });
  const explained = $derived(
    frames.map(({ answer, bytes }) => ({
      answer,
      parts: device.links[0] ? protocolOf(device.links[0]).explain?.(bytesOfHex(bytes), answer) : undefined,
      bytes,
    })),
  );
</script>

<details class="mt-2" bind:open>
  <summary class="cursor-pointer text-[13px]">Request and answer, byte by byte</summary>
  {#each explained as { answer, parts, bytes }, i (i)}
    <h3 class={['mt-2 text-xs font-semibold', answer ? 'text-feedback' : 'text-command']}>
      {answer ? '◂ answer' : '▸ request'}
    </h3>
    <ol class="text-xs" aria-label={answer ? 'answer' : 'request'}>
      {#each parts ?? [{ bytes, name: 'bytes', means: '' }] as part, n (n)}
        <li class="grid grid-cols-[7.5rem_1fr] gap-2 border-b border-base-300 py-0.5">
          <span class="font-mono wrap-anywhere">{part.bytes}</span>
          <span class="min-w-0 wrap-anywhere"
            >{part.name}{part.means ? ':' : ''}
            <span class="text-faint">{part.means}</span></span
          >
        </li>
      {/each}
    </ol>
  {:else}
    <p class="text-xs text-faint">Nothing was heard yet.</p>
  {/each}
</details>
