<script lang="ts">
  import '@xyflow/svelte/dist/base.css';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { wiresOf, type Device, type SafetyLogic, type SafetyRun } from '@fadenkreuz/core';
  import { SvelteFlow, type Edge, type Node } from '@xyflow/svelte';
  import { untrack } from 'svelte';
  import LogicNode from './LogicNode.svelte';
  import { giveDrawn } from './networkDrawn.js';
  import { placesOf } from './networkPlaces.js';
  import { editLogic, withoutWire, withWire } from './safetyEdits.js';

  interface Props {
    device: Device;
    logic: SafetyLogic;
    /** The simulation at work; undefined: nothing is known of values. */
    run: SafetyRun | undefined;
    /** Changes with each step of the simulation. */
    steps: number;
    chosen: string | undefined;
    onchoose: (id: string) => void;
  }
  /** The network as a drawing: blocks from left to right, wires between them, drawn thick where they carry a 1. */
  let { device, logic, run, steps, chosen, onchoose }: Props = $props();
  const desk = useDesk();

  const value = (id: string) => {
    void steps;
    return run?.value(id);
  };
  giveDrawn({
    get logic() {
      return logic;
    },
    get chosen() {
      return chosen;
    },
    value,
    choose: (id) => onchoose(id),
  });

  const nodeTypes = { block: LogicNode };
  const laid = $derived(placesOf(logic));
  const high = $derived(Math.min(460, Math.max(120, laid.height + 24)));
  let nodes = $state.raw<Node[]>([]);
  let edges = $state.raw<Edge[]>([]);
  $effect.pre(() => {
    nodes = laid.places.map(({ id, x, y, width, height }) => ({
      ...{ id, width, height, type: 'block', position: { x, y }, data: {} },
    }));
  });
  /** What a wire carries, in the order of the blocks; a text, so that it changes only where a value does. */
  const carried = $derived(
    logic.blocks
      .flatMap((block) =>
        wiresOf(block).map(({ from, not }) => value(from) !== undefined && value(from) !== not),
      )
      .map((on) => (on ? '1' : '0'))
      .join(''),
  );
  $effect.pre(() => {
    const on = [...carried];
    const selected = untrack(() => edges.find((edge) => edge.selected)?.id);
    edges = logic.blocks.flatMap((block) =>
      wiresOf(block).map(({ from, not }, i) => ({
        ...{ id: `${block.id} ${i}`, source: from, target: block.id, targetHandle: String(i) },
        ...(not ? { label: 'not' } : {}),
        selected: `${block.id} ${i}` === selected,
        class: on.shift() === '1' ? 'wire-on' : 'wire-off',
      })),
    );
  });

  function connect(from: string, to: string, end: string | null | undefined): false {
    editLogic(desk, device, withWire(logic, to, Number(end ?? 0), from));
    return false;
  }
  function remove(gone: readonly Edge[]): Promise<false> {
    const [wire] = gone;
    if (wire) editLogic(desk, device, withoutWire(logic, wire.target, Number(wire.targetHandle ?? 0)));
    return Promise.resolve(false);
  }
</script>

<div
  class="network rounded-box border border-base-300"
  style:height="{high}px"
  role="group"
  aria-label="drawing of the network"
>
  {#key laid}
    <SvelteFlow
      bind:nodes
      bind:edges
      {nodeTypes}
      fitView
      fitViewOptions={{ maxZoom: 1, padding: 0.03 }}
      minZoom={0.2}
      maxZoom={1.5}
      nodesDraggable={false}
      nodesFocusable={false}
      edgesFocusable={false}
      zoomOnScroll={false}
      preventScrolling={false}
      proOptions={{ hideAttribution: true }}
      onbeforeconnect={({ source, target, targetHandle }) => connect(source, target, targetHandle)}
      onbeforedelete={({ edges: gone }) => remove(gone)}
    />
  {/key}
</div>

<style>
  .network :global(.svelte-flow) {
    --xy-background-color: transparent;
    --xy-edge-stroke: var(--color-base-content);
    --xy-edge-stroke-selected: var(--color-error);
    --xy-connectionline-stroke: var(--color-base-content);
    --xy-edge-label-background-color: var(--color-base-200);
    --xy-edge-label-color: var(--color-base-content);
    font-size: 12px;
  }
  .network :global(.svelte-flow__edge path) {
    stroke-width: 1.25;
  }
  .network :global(.wire-on path) {
    stroke-width: 3;
  }
  .network :global(.wire-off path) {
    stroke-dasharray: 4 3;
  }
  .network :global(.svelte-flow__handle) {
    width: 10px;
    height: 10px;
    border: 1px solid var(--color-base-content);
    border-radius: 50%;
    background: var(--color-base-100);
  }
</style>
