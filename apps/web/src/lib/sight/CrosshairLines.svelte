<script lang="ts">
  import type { BothSides } from '@fadenkreuz/core';
  import { placeOfBit, tapeMargin, type TapeShape } from './tape.js';

  /**
   * The crosshair over a tape: the bit, a line to both margins with the addresses, and one through the column. Across
   * the tape itself the row's line is drawn by the tape, behind the fields, so that it strikes no name out.
   */
  let { shape, bit, height, sides }: { shape: TapeShape; bit: number; height: number; sides: BothSides } =
    $props();

  /** How far the lines reach into the margins, and where the addresses begin. */
  const reach = 40;
  const gap = 10;
  /** Characters that a margin has room for beside each other; longer addresses take two lines. */
  const mostInLine = 14;
  /** The same in small letters. */
  const mostSmall = 16;

  const width = $derived(shape.rowBits * shape.cell);
  const place = $derived(placeOfBit(bit, shape));
  const left = $derived(tapeMargin + place.left);
  const middle = $derived(place.top + shape.rowHeight / 2);
  const below = $derived(place.top + shape.rowHeight);
  const column = $derived(left + shape.cell / 2 - 1);

  const tags = $derived([
    { id: 'controller-address', text: sides.controller.text, x: `right:${width + tapeMargin + gap}px` },
    { id: 'device-address', text: sides.device.text, x: `left:${width + tapeMargin + gap}px` },
  ]);
  const lines = $derived([
    { left: tapeMargin - reach, top: middle - 1, width: reach, height: 2 },
    { left: tapeMargin + width, top: middle - 1, width: reach, height: 2 },
  ]);
</script>

<div class="pointer-events-none absolute inset-0 z-10">
  {#each lines as line, i (i)}
    <div
      class="absolute bg-accent"
      style:left="{line.left}px"
      style:top="{line.top}px"
      style:width="{line.width}px"
      style:height="{line.height}px"
    ></div>
  {/each}
  {#each [{ top: 0, height: place.top }, { top: below, height: height - below }] as line (line.top)}
    <div
      class="absolute bg-accent opacity-60"
      style:left="{column}px"
      style:top="{line.top}px"
      style:width="2px"
      style:height="{line.height}px"
    ></div>
  {/each}
  <div
    class="absolute rounded-[4px] border-2 border-accent"
    style:left="{left}px"
    style:top="{place.top + 1}px"
    style:width="{shape.cell + 1}px"
    style:height="{shape.rowHeight - 1}px"
  ></div>
  {#each tags as tag (tag.id)}
    {@const long = tag.text.length > mostInLine}
    <div
      class={[
        'absolute rounded-[4px] bg-accent font-mono font-semibold text-accent-content',
        long ? 'px-1 py-0.5 text-xs leading-4 tracking-tight' : 'whitespace-nowrap',
        !long && (shape.rowHeight > 20 ? 'px-2 py-0.5' : 'px-1.5 text-xs leading-4'),
      ]}
      style:max-width="{tapeMargin - gap}px"
      style="{tag.x};top:{middle -
        (long && tag.text.length > mostSmall ? 18 : shape.rowHeight > 20 ? 12 : 8)}px"
      data-testid={tag.id}
    >
      {tag.text}
    </div>
  {/each}
</div>
