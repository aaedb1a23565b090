<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    blockKindOf,
    objectSeen,
    restingInput,
    type Device,
    type InputNow,
    type LogicBlock,
    type SafetyLogic,
    type SafetyRun,
  } from '@fadenkreuz/core';

  interface Props {
    device: Device;
    logic: SafetyLogic;
    run: SafetyRun;
    steps: number;
    /** The simulated device on the bench has the inputs; else the simulation of this page. */
    live: boolean;
  }
  /** What is done to the inputs by hand: at the desk, or at the simulated device on the bench. */
  let { device, logic, run, steps, live }: Props = $props();
  const desk = useDesk();

  const inputs = $derived(logic.blocks.filter((b) => blockKindOf(b).family === 'input'));
  const first = $derived(logic.blocks.find(({ is }) => is === 'curtain'));
  const now = (block: LogicBlock): InputNow => {
    void steps;
    return run.inputs.get(block.id) ?? restingInput(block.is);
  };

  /** Quantities of the stand-in that an entry stands for. */
  function quantities(block: LogicBlock, part: Partial<InputNow>): [string, number][] {
    const { name } = block;
    const object = block === first ? 'object' : name;
    return Object.entries(part).map(([key, value]) => [
      block.is === 'curtain' ? `${object} ${key}` : block.is === 'two-hand' ? `${name} ${key}` : name,
      Number(value),
    ]);
  }
  function set(block: LogicBlock, part: Partial<InputNow>) {
    run.set(block.id, part);
    if (!live) return;
    for (const [quantity, value] of quantities(block, part))
      void desk.ask('POST', '/met', { device: device.id, quantity, value });
  }
  const held = $derived(Object.keys(desk.linkStatus(device.id)?.side?.met ?? {}));
  function leave() {
    for (const quantity of held) void desk.ask('POST', '/met', { device: device.id, quantity, value: null });
  }
  /** Numbers of the dark beams; the run changes with each step. */
  function darkOf(block: LogicBlock): number[] {
    void steps;
    return block.is === 'curtain' ? run.dark(block) : [];
  }
  function seen(block: LogicBlock): string {
    if (block.is !== 'curtain') return '';
    const object = objectSeen(block, darkOf(block));
    if (!object) return 'no beam is dark';
    return `seen: ${object.size} ± ${object.uncertainty} mm, from ${object.position} ± ${object.uncertainty} mm`;
  }
</script>

<ul class="flex flex-col gap-1">
  {#each inputs as block (block.id)}
    {@const input = now(block)}
    <li>
      {#if block.is === 'curtain'}
        {@const dark = darkOf(block)}
        <p class="font-mono text-sm">{block.name}</p>
        <div class="flex h-3 items-stretch gap-px" aria-hidden="true">
          {#each Array.from({ length: block.beams }, (_, i) => i + 1) as beam (beam)}
            <span class={['grow', dark.includes(beam) ? 'bg-base-content' : 'bg-base-300']}></span>
          {/each}
        </div>
        <label class="lens-row"
          >object, mm <input
            type="range"
            class="range w-32 range-xs"
            aria-label="size of what is in the way of {block.name}"
            min="0"
            max={block.beams * block.pitch}
            value={input.size}
            oninput={(event) => set(block, { size: Number(event.currentTarget.value) })}
          /><span class="w-10 text-right font-mono">{input.size}</span></label
        >
        <label class="lens-row"
          >its lower edge, mm <input
            type="range"
            class="range w-32 range-xs"
            aria-label="place of what is in the way of {block.name}"
            min="0"
            max={block.lowest + block.beams * block.pitch}
            value={input.position}
            oninput={(event) => set(block, { position: Number(event.currentTarget.value) })}
          /><span class="w-10 text-right font-mono">{input.position}</span></label
        >
        <p class="text-xs text-faint" data-seen={block.name}>{seen(block)}</p>
      {:else if block.is === 'two-hand'}
        {#each ['left', 'right'] as const as hand (hand)}
          <label class="lens-row"
            ><span class="font-mono">{block.name}, {hand}</span>
            <input
              type="checkbox"
              class="checkbox rounded-sm checkbox-xs"
              checked={input[hand]}
              onchange={(event) => set(block, { [hand]: event.currentTarget.checked })}
            /></label
          >
        {/each}
      {:else if block.is === 'mode'}
        <label class="lens-row"
          ><span class="font-mono">{block.name}</span>
          <input
            type="number"
            class="input w-16 text-right font-mono input-xs"
            min="0"
            max="99"
            value={input.mode}
            onchange={(event) => set(block, { mode: Number(event.currentTarget.value) })}
          /></label
        >
      {:else if block.is === 'button'}
        <div class="lens-row">
          <span class="font-mono">{block.name}</span>
          <button
            class="btn btn-xs"
            aria-pressed={input.on}
            aria-label="hold {block.name}"
            onpointerdown={() => set(block, { on: true })}
            onpointerup={() => set(block, { on: false })}
            onpointerleave={() => input.on && set(block, { on: false })}
            onkeydown={(e) => (e.key === ' ' || e.key === 'Enter') && !e.repeat && set(block, { on: true })}
            onkeyup={(e) => (e.key === ' ' || e.key === 'Enter') && set(block, { on: false })}>hold</button
          >
        </div>
      {:else}
        <label class="lens-row"
          ><span class="font-mono">{block.name}</span>
          <span class="text-xs text-faint">{block.is === 'door' ? 'closed' : 'not pressed'}</span>
          <input
            type="checkbox"
            class="checkbox rounded-sm checkbox-xs"
            aria-label="{block.name} {block.is === 'door' ? 'closed' : 'not pressed'}"
            checked={input.on}
            onchange={(event) => set(block, { on: event.currentTarget.checked })}
          /></label
        >
      {/if}
    </li>
  {/each}
</ul>
{#if live && held.length > 0}
  <button class="btn mt-2 btn-sm" onclick={leave}>Leave them to the machine</button>
{/if}
