<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import StopMark from '$lib/beam/StopMark.svelte';
  import LinkStateMark from './LinkStateMark.svelte';

  let { chosen, onchoose }: { chosen: string | undefined; onchoose: (id: string) => void } = $props();
  /** The devices of the bench in a strip: each with the state of its link. */
  const desk = useDesk();
</script>

<ul class="flex max-h-[116px] flex-wrap gap-1.5 overflow-y-auto" aria-label="devices of the bench">
  {#each desk.cell.devices as device (device.id)}
    {@const status = desk.linkStatus(device.id)}
    {@const bad = status && status.state !== 'no-stand-in' && status.causes.length > 0}
    <li
      class={[
        'flex items-center gap-2 rounded-field border px-2 py-0.5',
        chosen === device.id ? 'border-base-content bg-base-100 font-semibold' : 'border-base-300',
      ]}
    >
      <button
        class="min-h-[24px] cursor-pointer font-mono"
        aria-pressed={chosen === device.id}
        onclick={() => onchoose(device.id)}>{device.name}</button
      >
      {#if status?.state === 'open'}
        <span class="text-success" role="img" aria-label="open" title="open">✓</span>
      {:else}
        <span class="text-[13px]"><LinkStateMark {status} /></span>
      {/if}
      {#if status?.state === 'open' && status.stops}
        <StopMark stops={status.stops} brief />
      {/if}
      {#if bad}<span class="text-error" title={status.causes[0]?.title}>▲</span>{/if}
    </li>
  {/each}
</ul>
