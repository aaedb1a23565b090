<script lang="ts">
  import { bitOfAddress, Problem, type AddressScene, type NumberedBlock } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import InPlace from '$lib/controls/InPlace.svelte';

  /** The blocks of an image that the device's manual numbers each from a base of its own. */
  interface Props {
    scene: AddressScene;
    blocks: readonly NumberedBlock[];
    take: (blocks: NumberedBlock[]) => boolean;
  }
  let { scene, blocks, take }: Props = $props();
  const desk = useDesk();

  const set = (block: NumberedBlock, values: Partial<NumberedBlock>) =>
    take(blocks.map((b) => (b === block ? { ...b, ...values } : b)));

  /** An address of either side, or a byte; blocks do not count in it. */
  function begin(block: NumberedBlock, typed: string): boolean {
    const { numbering } = scene.image;
    const plain = numbering
      ? { ...scene, image: { ...scene.image, numbering: { ...numbering, blocks: [] } } }
      : scene;
    try {
      return set(block, { at: bitOfAddress(typed, plain) >> 3 });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      desk.note = { says: error.message, cure: error.cure };
      return false;
    }
  }

  const add = () =>
    take([
      ...blocks,
      { name: `block_${blocks.length + 1}`, at: Math.min(blocks.length * 2, scene.image.size - 1), first: 0 },
    ]);
</script>

{#each blocks as block, i (i)}
  <div class="border-b border-base-300 py-1 text-xs text-faint">
    <div class="flex items-center justify-between gap-1">
      <InPlace
        class="w-40 font-mono"
        value={block.name}
        label="name of block {i + 1}"
        take={(name) => set(block, { name: name.trim() })}
      />
      <button class="cursor-pointer underline" onclick={() => take(blocks.filter((b) => b !== block))}
        >remove</button
      >
    </div>
    begins at <InPlace
      class="w-20 border-base-300 font-mono"
      value="byte {block.at}"
      label="where {block.name} begins: an address of either side"
      take={(typed) => begin(block, typed)}
    />, counts from <InPlace
      class="w-12 border-base-300 font-mono"
      value={String(block.first)}
      label="number of the first unit of {block.name}"
      take={(text) => set(block, { first: Number(text) })}
    />
  </div>
{/each}
<button class="btn mt-1 btn-xs" onclick={add}>Add a block that counts anew</button>
