<script lang="ts">
  import { faultChoices, ownFaults, type Device, type Fault } from '@fadenkreuz/core';
  import type { LinkStatus } from '@fadenkreuz/field/agent-api';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** Makes something go wrong at a stand-in, and takes it away again. */
  let { device, status }: { device: Device; status: LinkStatus | undefined } = $props();
  const desk = useDesk();

  const choices = $derived(faultChoices(device));
  let chosen = $state(0);
  const choice = $derived(choices[Math.min(chosen, choices.length - 1)]);
  /** What a person has set other than at first. */
  let told = $state<Record<string, string>>({});
  const settings = $derived(
    Object.entries(choice?.fault ?? {}).filter(([key]) => key !== 'fault' && key !== 'id'),
  );
  const resets = $derived(ownFaults(device));

  const titles: Record<string, string> = {
    share: 'share of packets, 0–1',
    ms: 'ms',
    offMs: 'off for, ms',
    by: 'bytes more or fewer',
    direction: 'image',
    differs: 'differs in',
  };
  const options: Record<string, string[]> = {
    direction: ['feedback', 'command'],
    differs: ['product', 'revision'],
  };

  function inject() {
    if (!choice) return;
    const typed = Object.entries(told).map(([key, text]) => [
      key,
      key in options || text === '' ? text : Number(text),
    ]);
    const fault = { ...choice.fault, ...Object.fromEntries(typed) } as Fault;
    void desk.ask('POST', '/inject', { device: device.id, fault });
  }
</script>

<h3 class="lens-heading">Faults on demand</h3>
<div class="flex gap-2">
  <select
    class="select min-w-0 flex-1 select-sm"
    aria-label="fault"
    value={String(chosen)}
    onchange={(event) => {
      chosen = Number(event.currentTarget.value);
      told = {};
    }}
  >
    {#each choices as { title }, i (title)}<option value={String(i)}>{title}</option>{/each}
  </select>
  <button class="btn btn-sm" disabled={!status || !desk.running} onclick={inject}>Inject</button>
</div>
{#each settings as [key, value] (key)}
  <label class="lens-row">
    {titles[key] ?? key}
    {#if options[key]}
      <select class="inplace cursor-pointer" onchange={(event) => (told[key] = event.currentTarget.value)}>
        {#each options[key] as option (option)}<option>{option}</option>{/each}
      </select>
    {:else}
      <input
        class="inplace w-20 font-mono"
        inputmode="decimal"
        value={told[key] ?? String(value)}
        oninput={(event) => (told[key] = event.currentTarget.value)}
      />
    {/if}
  </label>
{/each}
{#each status?.faults ?? [] as { key, title, fault } (key)}
  <div class="mt-2 border-l-3 border-error pl-2" data-testid="injected">
    <div class="flex items-start gap-2">
      <span class="flex-1">⚡ {title}</span>
      <button class="btn btn-xs" onclick={() => desk.ask('POST', '/clear', { device: device.id, key })}
        >Clear</button
      >
    </div>
    {#if fault.fault === 'device'}
      <p class="text-faint">Ends with: {resets.find((r) => r.id === fault.id)?.reset}.</p>
    {/if}
  </div>
{/each}
