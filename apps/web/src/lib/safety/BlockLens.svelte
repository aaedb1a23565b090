<script lang="ts">
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import NumberEntry from '$lib/motion/NumberEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    blockKindOf,
    meaningOf,
    wiresOf,
    type Device,
    type LogicBlock,
    type LogicWire,
    type SafetyLogic,
  } from '@fadenkreuz/core';
  import { editLogic, withoutBlock } from './safetyEdits.js';

  interface Props {
    device: Device;
    logic: SafetyLogic;
    block: LogicBlock;
    ongone: () => void;
  }
  /** One block of the network: what it is called, what it reads, its times. */
  let { device, logic, block, ongone }: Props = $props();
  const desk = useDesk();

  const kind = $derived(blockKindOf(block));
  const wires = $derived(wiresOf(block));
  const sources = $derived(
    logic.blocks.filter((b) => b.id !== block.id && blockKindOf(b).family !== 'output'),
  );
  const set = (part: object) =>
    editLogic(desk, device, {
      blocks: logic.blocks.map((b) => (b.id === block.id ? ({ ...b, ...part } as LogicBlock) : b)),
    });
  /** One wire more than there are, where it may have more. */
  const places = $derived(kind.more ? Math.min(wires.length + 1, 16) : kind.wires.length);
  function wire(at: number, part: Partial<LogicWire> | null) {
    const next = [...wires];
    if (part === null) next.splice(at, 1);
    else next[at] = { from: '', not: false, ...next[at], ...part };
    set({ in: next.filter(({ from }) => from !== '') });
  }
  function remove() {
    if (editLogic(desk, device, withoutBlock(logic, block.id))) ongone();
  }
</script>

<h2 class="text-base font-semibold">{kind.title}</h2>
<p class="mb-2 text-sm text-faint">1 when {meaningOf(logic, block.id)}.</p>
<LensEntry
  title="name"
  class="w-36 font-mono"
  value={block.name}
  take={(name) => set({ name: name.trim() })}
/>
{#each Array.from({ length: places }, (_, i) => i) as at (at)}
  <div class="lens-row">
    <span>{kind.more ? `reads ${at + 1}` : kind.wires[at]}</span>
    <span class="flex items-center gap-1">
      <label class="flex items-center gap-1 text-xs text-faint"
        >not <input
          type="checkbox"
          class="checkbox rounded-sm checkbox-xs"
          aria-label="not, at {kind.more ? at + 1 : kind.wires[at]}"
          checked={wires[at]?.not ?? false}
          disabled={!wires[at]}
          onchange={(event) => wire(at, { not: event.currentTarget.checked })}
        /></label
      >
      <LongSelect
        class="w-32"
        text={sources.find(({ id }) => id === wires[at]?.from)?.name ?? 'nothing'}
        aria-label="what {kind.more ? at + 1 : kind.wires[at]} reads"
        value={wires[at]?.from ?? ''}
        onchange={(event) =>
          wire(at, event.currentTarget.value === '' ? null : { from: event.currentTarget.value })}
      >
        <option value="">nothing</option>
        {#each sources as { id, name } (id)}<option value={id}>{name}</option>{/each}
      </LongSelect>
    </span>
  </div>
{/each}
{#if block.is === 'curtain'}
  <NumberEntry title="beams" value={block.beams} take={(beams) => set({ beams })} />
  <NumberEntry title="from beam to beam" unit="mm" value={block.pitch} take={(pitch) => set({ pitch })} />
  <NumberEntry title="lowest beam at" unit="mm" value={block.lowest} take={(lowest) => set({ lowest })} />
{:else if block.is === 'two-hand'}
  <NumberEntry title="both within" unit="s" value={block.within} take={(within) => set({ within })} />
{:else if block.is === 'mode'}
  <NumberEntry title="position" value={block.position} take={(position) => set({ position })} />
{:else if block.is === 'delay on' || block.is === 'delay off'}
  <NumberEntry title="delay" unit="s" value={block.after} take={(after) => set({ after })} />
{:else if block.is === 'reset'}
  <label class="lens-row"
    >acts at the <select
      class="inplace w-36"
      aria-label="edge of the reset"
      value={block.edge}
      onchange={(event) => set({ edge: event.currentTarget.value })}
    >
      <option value="falling">falling edge: let go</option><option value="rising">rising edge: press</option>
    </select></label
  >
  <label class="lens-row"
    >after power-on <select
      class="inplace w-36"
      aria-label="after power-on"
      value={block.start}
      onchange={(event) => set({ start: event.currentTarget.value })}
    >
      <option value="waits">it waits for a reset</option><option value="runs">it runs when safe</option>
    </select></label
  >
{:else if block.is === 'muting'}
  <NumberEntry title="both sensors within" unit="s" value={block.within} take={(within) => set({ within })} />
  <NumberEntry title="at the longest" unit="s" value={block.longest} take={(longest) => set({ longest })} />
{/if}
<button class="btn mt-3 btn-sm" onclick={remove}>Remove the block</button>
