<script lang="ts">
  import { blockKindOf, meaningOf, wiresOf } from '@fadenkreuz/core';
  import { Handle, Position, type NodeProps } from '@xyflow/svelte';
  import { useDrawn } from './networkDrawn.js';
  import { endsOf } from './networkPlaces.js';

  /** A block of the drawing: its name, what it is, whether it is 1; wires end on its left and begin on its right. */
  let { id, height = 0 }: NodeProps = $props();
  const drawn = useDrawn();

  const block = $derived(drawn.logic.blocks.find((b) => b.id === id));
  const on = $derived(drawn.value(id));
  const ends = $derived(block ? endsOf(block) : 0);
  const kind = $derived(block && blockKindOf(block));
  const nameOf = (from: string) => drawn.logic.blocks.find((b) => b.id === from)?.name ?? '?';
  const reads = $derived(
    block ? wiresOf(block).map(({ from, not }) => `${not ? 'not ' : ''}${nameOf(from)}`) : [],
  );
  const topOf = (i: number) => `${((i + 0.5) / ends) * 100}%`;
</script>

{#if block && kind}
  <button
    class={[
      'nodrag nopan flex size-full flex-col justify-center rounded-box border bg-base-100 px-2.5 py-1 text-left',
      id === drawn.chosen ? 'border-base-content outline-1 outline-base-content' : 'border-base-300',
    ]}
    aria-pressed={id === drawn.chosen}
    title={meaningOf(drawn.logic, id)}
    style:min-height="{height}px"
    onclick={() => drawn.choose(id)}
  >
    <span class="w-full font-mono wrap-anywhere">{block.name}</span>
    <span class="flex w-full items-baseline justify-between gap-2 text-xs">
      <span class="text-faint">
        {kind.title}{#if reads.length > 0}<span class="sr-only">: reads {reads.join(', ')}</span>{/if}
      </span>
      <span class={['shrink-0 font-mono text-sm', on ? 'text-success' : 'text-faint']} data-block={block.name}
        >{on === undefined ? '' : on ? '■ 1' : '□ 0'}</span
      >
    </span>
  </button>
  {#each Array.from({ length: ends }, (_, i) => i) as i (i)}
    <Handle
      type="target"
      position={Position.Left}
      id={String(i)}
      style="top: {topOf(i)}"
      title={kind.more ? `reads ${i + 1}` : kind.wires[i]}
      aria-label="{block.name} {kind.more ? `reads ${i + 1}` : kind.wires[i]}"
    />
  {/each}
  {#if kind.family !== 'output'}<Handle
      type="source"
      position={Position.Right}
      aria-label="value of {block.name}"
    />{/if}
{/if}
