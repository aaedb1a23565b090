<script lang="ts">
  import CrosshairLines from './CrosshairLines.svelte';
  import {
    bothSides,
    compileCodec,
    fieldAtBit,
    fieldEnd,
    shortText,
    type Edit,
    type Field,
    type Image,
  } from '@fadenkreuz/core';
  import { moveField, newField, resizeField } from '$lib/desk/fieldEdits.js';
  import { bitAtPoint, segmentsOf, tapeMargin, type Segment, type TapeShape } from '$lib/desk/tape.js';

  interface Props {
    image: Image;
    elementBits: 8 | 16 | 32;
    shape: TapeShape;
    /** The bit under the crosshair. */
    bit: number;
    /** Undefined while no bytes arrive. */
    bytes: Uint8Array | undefined;
    onpin: (bit: number) => void;
    onedit: (edit: Edit) => void;
    newId: () => string;
  }
  let { image, elementBits, shape, bit, bytes, onpin, onedit, newId }: Props = $props();

  type Drag = { mode: 'draw'; from: number } | { mode: 'move' | 'resize'; field: Field; from: number };
  let drag = $state<Drag | undefined>();
  let hover = $state(0);
  let tape: HTMLDivElement;

  const bits = $derived(image.size * 8);
  const rows = $derived(Math.ceil(bits / shape.rowBits));
  const height = $derived(rows * shape.rowHeight);
  const width = $derived(shape.rowBits * shape.cell);
  const command = $derived(image.direction === 'command');

  const inside = $derived(image.fields.filter((f) => fieldEnd(f) <= bits));
  const codec = $derived(compileCodec(inside));
  const texts = $derived.by(() => {
    if (!bytes || bytes.length < codec.bytes) return new Map<string, { text: string; on: boolean }>();
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    return new Map(
      inside.map((field, i) => [
        field.id,
        { text: shortText(field, codec.valueAt(i)), on: codec.numberAt(i) !== 0 },
      ]),
    );
  });
  const segments = $derived(image.fields.flatMap((f) => segmentsOf(f, shape)).filter((s) => s.row < rows));
  const chosen = $derived(fieldAtBit(image.fields, bit));

  /** Where the dragged field would lie. */
  const ghost: Segment[] = $derived.by(() => {
    if (!drag || drag.from === hover) return [];
    const edit = editOf(drag, 'ghost');
    if (!edit) return [];
    if (edit.edit === 'field.add') return segmentsOf(edit.field as Field, shape);
    if (edit.edit === 'field.set' && drag.mode !== 'draw')
      return segmentsOf({ ...drag.field, ...edit.set }, shape);
    return [];
  });

  function editOf(d: Drag, id: string): Edit | undefined {
    if (d.mode === 'draw') return newField(image, d.from, hover, id);
    if (d.mode === 'move') return moveField(image, d.field, d.field.at + hover - d.from);
    return resizeField(image, d.field, hover + 1);
  }

  function bitAt(event: PointerEvent): number {
    const box = tape.getBoundingClientRect();
    return bitAtPoint(event.clientX - box.left, event.clientY - box.top, shape, bits);
  }

  function down(event: PointerEvent) {
    if (event.button !== 0 || bits === 0) return;
    const from = bitAt(event);
    const handle = (event.target as HTMLElement).dataset['resize'];
    const resized = image.fields.find((f) => f.id === handle);
    const field = resized ?? fieldAtBit(image.fields, from);
    drag = resized
      ? { mode: 'resize', field: resized, from }
      : field
        ? { mode: 'move', field, from }
        : { mode: 'draw', from };
    hover = from;
    tape.setPointerCapture(event.pointerId);
  }
  function move(event: PointerEvent) {
    if (drag) hover = bitAt(event);
  }
  function up() {
    if (!drag) return;
    const done = drag;
    drag = undefined;
    if (hover === done.from) {
      onpin(hover);
      return;
    }
    const edit = editOf(done, newId());
    if (!edit) return;
    onedit(edit);
    onpin(
      done.mode === 'move'
        ? edit.edit === 'field.set'
          ? Number(edit.set['at'])
          : hover
        : Math.min(done.from, hover),
    );
  }

  const typeText = (field: Field) => {
    const scale = field.scale ? ` · ${field.scale.numerator}/${field.scale.denominator}` : '';
    return `${field.type === 'BITS' ? `${field.bits} bits` : field.type}${scale}${field.unit ? ` ${field.unit}` : ''}`;
  };
</script>

<div class="relative mx-auto select-none" style:width="{width + 2 * tapeMargin}px">
  <!-- head: bit numbers of a row -->
  <div class="sticky top-0 z-20 flex h-6 items-end bg-base-200 font-mono text-xs text-faint">
    <span class="w-[136px] pr-3 text-right font-sans">controller</span>
    {#each { length: shape.rowBits } as _, i (i)}
      {@const column = shape.rowBits - 1 - i}
      <span
        class={['text-center', bit % shape.rowBits === column && 'font-bold text-accent']}
        style:width="{shape.cell}px"
        style:font-size={shape.cell < 14 ? '8px' : undefined}
        >{shape.cell >= 14 || column % 8 === 0 ? column : ''}</span
      >
    {/each}
    <span class="w-[136px] pl-3 font-sans">device</span>
  </div>

  <div class="relative" style:height="{height}px">
    {#each { length: rows } as _, row (row)}
      {@const first = row * shape.rowBits}
      {@const side = bothSides(image, first, elementBits)}
      {@const last = Math.min(first + shape.rowBits, bits) - 1}
      {@const crossed = Math.floor(bit / shape.rowBits) === row}
      <div
        class:invisible={crossed}
        class="absolute w-[136px] pr-3 text-right font-mono leading-tight"
        style:top="{row * shape.rowHeight + 5}px"
      >
        <div>{side.controller.elementText}</div>
        <div class="text-[11px] text-faint">{side.controller.directElement}</div>
      </div>
      <div
        class:invisible={crossed}
        class="absolute right-0 w-[136px] pl-3 font-mono leading-tight"
        style:top="{row * shape.rowHeight + 5}px"
      >
        <div>byte {last >> 3 === first >> 3 ? first >> 3 : `${last >> 3} … ${first >> 3}`}</div>
        <div class="text-[11px] text-faint">{(first >> 3) % 2 === 0 ? `word ${first >> 4}` : ''}</div>
      </div>
    {/each}

    <div
      bind:this={tape}
      class={[
        'tape-grid absolute left-[136px] cursor-crosshair touch-none border-base-300 bg-base-100/60',
        command ? 'text-command' : 'text-feedback',
      ]}
      style:width="{width}px"
      style:height="{height}px"
      style:--cell="{shape.cell}px"
      style:--row="{shape.rowHeight}px"
      role="presentation"
      onpointerdown={down}
      onpointermove={move}
      onpointerup={up}
      onpointercancel={() => (drag = undefined)}
      data-testid="tape"
    >
      {#each segments as s (`${s.field.id}/${s.row}`)}
        {@const live = texts.get(s.field.id)}
        {@const single = s.field.bits === 1}
        <div
          class={[
            'absolute flex flex-col justify-center overflow-hidden border leading-tight',
            s.begins && 'rounded-t-[5px]',
            s.ends ? 'rounded-b-[5px]' : 'border-b-0',
            single && live?.on
              ? command
                ? 'border-command bg-command text-base-100'
                : 'border-feedback bg-feedback text-base-100'
              : command
                ? 'border-command bg-command-fill'
                : 'border-feedback bg-feedback-fill',
            chosen?.id === s.field.id && 'outline-2 -outline-offset-2 outline-current',
          ]}
          style:left="{s.left + 1}px"
          style:top="{s.row * shape.rowHeight + (s.begins ? 3 : 0)}px"
          style:width="{s.width - 1}px"
          style:height="{shape.rowHeight - (s.begins ? 3 : 0) - (s.ends ? 2 : 0)}px"
          style:border-top-style={s.begins ? undefined : 'dashed'}
          title="{s.field.name} · {typeText(s.field)}"
          data-field={s.field.id}
        >
          {#if single}
            <span class="line-clamp-3 px-px text-center text-[9.5px] leading-[1.15] wrap-anywhere">
              {#each s.field.name.split('_') as word, w (w)}{#if w}_<wbr />{/if}{word}{/each}
            </span>
          {:else if s.begins}
            <span class="truncate px-2 text-[13px] font-semibold">{s.field.name}</span>
            <span class="truncate px-2 font-mono text-[12px]">{live?.text ?? typeText(s.field)}</span>
          {:else}
            <span class="truncate px-2 font-mono text-[11px] opacity-80">{s.field.name} …</span>
          {/if}
          {#if s.ends && s.width > 12}
            <span
              class="absolute inset-y-0 left-0 w-1.5 cursor-ew-resize opacity-0 hover:bg-current hover:opacity-60"
              data-resize={s.field.id}
            ></span>
          {/if}
        </div>
      {/each}

      {#each ghost as s (`ghost/${s.row}`)}
        <div
          class="pointer-events-none absolute rounded-[5px] border-2 border-dashed border-base-content"
          style:left="{s.left + 1}px"
          style:top="{s.row * shape.rowHeight + 2}px"
          style:width="{s.width - 2}px"
          style:height="{shape.rowHeight - 4}px"
        ></div>
      {/each}
    </div>

    {#if bits > 0}
      <CrosshairLines {shape} {bit} {height} sides={bothSides(image, bit, elementBits)} />
    {/if}
  </div>
  {#if bits === 0}<p class="p-6 text-center text-faint">
      This image has no bytes. Give it a size in the line-up.
    </p>{/if}
</div>
