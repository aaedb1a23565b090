<script lang="ts">
  import { deviceKinds, freeAddress, type AddressRange, type Network } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import Plus from '@lucide/svelte/icons/plus';
  import InPlace from '$lib/controls/InPlace.svelte';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';

  /** How the cell's addresses are given out: subnets, gateway, ranges. */
  const desk = useDesk();
  const network = $derived(desk.cell.network);
  const set = (part: Partial<Network>) => desk.edit({ edit: 'network.set', set: part });
  const list = (text: string) =>
    text
      .split(',')
      .map((part) => part.trim())
      .filter(Boolean);

  const setRange = (range: AddressRange, part: Partial<AddressRange>) =>
    set({ ranges: network.ranges.map((r) => (r.id === range.id ? { ...r, ...part } : r)) });
  function addRange() {
    const first = freeAddress(desk.cell) || network.subnet.split('/')[0]!;
    const range = { id: crypto.randomUUID(), first, last: first, kind: null, title: '' };
    set({ ranges: [...network.ranges, range] });
  }
  const findings = $derived(desk.findings.filter((f) => f.code.startsWith('network.')));
</script>

<h2 class="text-lg font-semibold">Address plan</h2>
{#each findings as finding, i (i)}
  <p class="my-1.5 border-l-[3px] border-base-content pl-3">
    <b>{finding.severity}</b> · {finding.says} <span class="text-faint">{finding.cure}</span>
  </p>
{/each}
<LensEntry
  title="subnet"
  class="w-40 font-mono"
  value={network.subnet}
  take={(text) => desk.edit({ edit: 'network.move', subnet: text.trim() })}
/>
<LensEntry
  title="further subnets"
  class="w-40 font-mono"
  value={network.further.join(', ')}
  placeholder="none"
  take={(text) => set({ further: list(text) })}
/>
<LensEntry
  title="gateway"
  class="w-40 font-mono"
  value={network.gateway ?? ''}
  placeholder="none"
  take={(text) => set({ gateway: text.trim() || null })}
/>
<label class="lens-row">
  rate of the ports
  <select
    class="inplace cursor-pointer font-mono"
    value={network.rate}
    onchange={(event) => set({ rate: Number(event.currentTarget.value) as Network['rate'] })}
  >
    {#each [100, 1000] as rate (rate)}<option value={rate}>{rate} Mbit/s</option>{/each}
  </select>
</label>

<h3 class="lens-heading">Ranges</h3>
<ul aria-label="ranges">
  {#each network.ranges as range, i (range.id)}
    <li class="border-b border-base-300 py-1">
      <div class="flex items-center gap-1">
        <InPlace
          class="w-[128px] font-mono"
          value={range.first}
          label="first address of range {i + 1}"
          take={(text) => setRange(range, { first: text.trim() })}
        />
        –
        <InPlace
          class="w-[128px] font-mono"
          value={range.last}
          label="last address of range {i + 1}"
          take={(text) => setRange(range, { last: text.trim() })}
        />
      </div>
      <div class="flex flex-wrap items-center gap-1">
        <select
          class="inplace grow cursor-pointer"
          aria-label="whose range {i + 1} is"
          value={range.kind ?? ''}
          onchange={(event) =>
            setRange(range, { kind: (event.currentTarget.value || null) as AddressRange['kind'] })}
        >
          <option value="">reserved</option>
          {#each deviceKinds as kind (kind)}<option value={kind}>for {kind}</option>{/each}
        </select>
        <InPlace
          wraps
          class="w-full min-w-0"
          value={range.title}
          label="title of range {i + 1}"
          placeholder="why"
          take={(title) => setRange(range, { title: title.trim() })}
        />
        <RemoveButton
          class="ml-auto"
          label="remove range {i + 1}"
          onclick={() => set({ ranges: network.ranges.filter((r) => r.id !== range.id) })}
        />
      </div>
    </li>
  {:else}
    <li class="text-faint">None: every address of the subnet may be given to any device.</li>
  {/each}
</ul>
<button class="btn mt-2 btn-sm" onclick={addRange}><Plus size={14} aria-hidden="true" />Add a range</button>
