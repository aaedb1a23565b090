<script lang="ts">
  import BitLegend from './BitLegend.svelte';
  import CrosshairLines from './CrosshairLines.svelte';
  import TapeBlock from './TapeBlock.svelte';
  import {
    asSignal,
    bothSides,
    codecOf,
    inRadix,
    signalAtBit,
    signalsOf,
    swappedByte,
    type AddressScene,
    type Edit,
    type Field,
    type Radix,
    type Signal,
  } from '@fadenkreuz/core';
  import { moveField, newField, resizeField } from './fieldEdits.js';
  import {
    alongTape,
    bitAtPoint,
    changeShades,
    rowsInSight,
    segmentsByRow,
    segmentsOf,
    setBitMarks,
    tapeMargin,
    type Segment,
    type TapeShape,
  } from './tape.js';

  interface Props {
    scene: AddressScene;
    shape: TapeShape;
    /** The bit under the crosshair. */
    bit: number;
    /** Undefined while no bytes arrive. */
    bytes?: Uint8Array | undefined;
    /** A reading for all signals; each its own when it is undefined. */
    radix?: Radix | undefined;
    /** What to mark by its id, as in a preview. */
    marked?: ReadonlySet<string>;
    onpin: (bit: number) => void;
    /** Left out where the tape only shows. */
    onedit?: (edit: Edit) => void;
    newId?: () => string;
    /** When each bit last changed, ms since 1970, in the device's order of bytes; and the time now. */
    changed?: { at: Float64Array; now: number } | undefined;
    /** Names the single bits in full below the tape. */
    legend?: boolean;
  }
  let {
    scene,
    shape,
    bit,
    bytes,
    radix,
    marked,
    onpin,
    onedit,
    newId = () => 'new',
    legend = false,
    changed,
  }: Props = $props();

  type Drag =
    | { mode: 'draw'; from: number }
    | { mode: 'move' | 'resize'; signal: Signal; field: Field; from: number };
  let drag = $state<Drag | undefined>();
  let hover = $state(0);
  let tape: HTMLDivElement;
  let box = $state<HTMLDivElement | undefined>();
  let scrolled = $state(0);
  let boxHeight = $state(600);

  const image = $derived(scene.image);
  const bits = $derived(image.size * 8);
  const rows = $derived(Math.ceil(bits / shape.rowBits));
  const height = $derived(rows * shape.rowHeight);
  const width = $derived(shape.rowBits * shape.cell);
  const command = $derived(image.direction === 'command');

  const signals = $derived(signalsOf(image));
  const blocks = $derived(segmentsByRow(signals, shape));
  const sight = $derived(rowsInSight(scrolled, boxHeight, rows, shape));
  const shownRows = $derived(
    Array.from({ length: Math.max(0, sight.last - sight.first + 1) }, (_, i) => sight.first + i),
  );
  const shown = $derived(shownRows.flatMap((row) => blocks[row] ?? []));
  const chosen = $derived(signalAtBit(signals, bit));

  const codec = $derived(codecOf(image));
  const indexes = $derived(new Map(codec.signals.map((s, i) => [s.id, i])));
  const live = $derived.by(() => {
    if (!bytes || bytes.length < codec.bytes) return undefined;
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    // A new value for every packet, so that what reads it is drawn again.
    return { bytes, codec };
  });
  /** The bytes in the device's order, as the tape shows them. */
  const deviceBytes = $derived(
    bytes && image.swapped ? bytes.map((_, b) => bytes[swappedByte(b, image.size)] ?? 0) : bytes,
  );
  const marks = $derived(deviceBytes ? setBitMarks(deviceBytes, shape, sight.first, sight.last) : '');

  const shades = $derived(
    changed ? changeShades(changed.at, changed.now, shape, sight.first, sight.last) : [],
  );

  function liveText(signal: Signal): { text: string; on: boolean } | undefined {
    const i = indexes.get(signal.id);
    if (!live || i === undefined) return undefined;
    const value = live.codec.valueAt(i);
    const other = inRadix(signal, value, radix ?? signal.radix);
    return { text: other ?? live.codec.textAt(i), on: value === true };
  }

  /** Where the dragged field would lie. */
  const ghost: Segment[] = $derived.by(() => {
    if (!drag || drag.from === hover) return [];
    const edit = editOf(drag, 'ghost');
    if (edit?.edit === 'field.add') return segmentsOf(asSignal(edit.field as Field), shape);
    if (edit?.edit !== 'field.set' || drag.mode === 'draw') return [];
    const { signal, field } = drag;
    const at = 'at' in edit.set ? signal.at + Number(edit.set['at']) - field.at : signal.at;
    return segmentsOf({ ...signal, ...(edit.set as Partial<Field>), order: signal.order, at }, shape);
  });

  function editOf(d: Drag, id: string): Edit | undefined {
    if (d.mode === 'draw') return newField(image, d.from, hover, id);
    if (d.mode === 'move') return moveField(image, d.field, d.field.at + hover - d.from);
    return resizeField(image, d.field, d.field.at + hover + 1 - d.signal.at);
  }

  function bitAt(event: PointerEvent): number {
    const edge = tape.getBoundingClientRect();
    return bitAtPoint(event.clientX - edge.left, event.clientY - edge.top, shape, bits);
  }

  function down(event: PointerEvent) {
    if (event.button !== 0 || bits === 0) return;
    const from = bitAt(event);
    const handle = (event.target as HTMLElement).dataset['resize'];
    const resized = signals.find((s) => s.id === handle);
    const signal = resized ?? signalAtBit(signals, from);
    const field = signal && image.fields.find((f) => f.id === signal.of);
    drag =
      signal && field ? { mode: resized ? 'resize' : 'move', signal, field, from } : { mode: 'draw', from };
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
    if (hover === done.from || !onedit) {
      onpin(hover);
      return;
    }
    const edit = editOf(done, newId());
    if (!edit) return;
    onedit(edit);
    if (done.mode === 'move' && edit.edit === 'field.set')
      onpin(done.signal.at + Number(edit.set['at']) - done.field.at);
    else onpin(Math.min(done.from, hover));
  }

  // The crosshair stays in view when it is moved by keys or from elsewhere.
  $effect(() => {
    const top = Math.floor(bit / shape.rowBits) * shape.rowHeight;
    if (!box) return;
    const foot = top + shape.rowHeight * 2 + 24;
    if (top < box.scrollTop) box.scrollTop = Math.max(0, top - shape.rowHeight);
    else if (foot > box.scrollTop + box.clientHeight) box.scrollTop = foot - box.clientHeight;
  });
</script>

<!-- It scrolls, so the keyboard must reach it (WCAG 2.2, 2.1.1). -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  bind:this={box}
  role="region"
  aria-label="tape"
  tabindex="0"
  bind:clientHeight={boxHeight}
  onscroll={(event) => (scrolled = event.currentTarget.scrollTop)}
  class="min-h-0 shrink overflow-x-hidden overflow-y-auto"
  data-testid="tape-window"
>
  <div class="relative mx-auto select-none" style:width="{width + 2 * tapeMargin}px">
    <!-- head: bit numbers of a row -->
    <div class="sticky top-0 z-20 flex h-6 items-end bg-base-200 font-mono text-xs text-faint">
      <span class="w-[136px] pr-3 text-right font-sans">controller</span>
      {#each { length: shape.rowBits } as _, i (i)}
        {@const column = shape.rowBits - 1 - i}
        <span
          class={['text-center', alongTape(bit, shape) % shape.rowBits === column && 'font-bold text-accent']}
          style:width="{shape.cell}px">{shape.cell >= 16 || column % 8 === 0 ? column : ''}</span
        >
      {/each}
      <span class="w-[136px] pl-3 font-sans">device</span>
    </div>

    <div class="relative" style:height="{height}px">
      {#each shownRows as row (row)}
        {@const first = row * shape.rowBits}
        {@const side = bothSides(scene, first)}
        {@const last = Math.min(first + shape.rowBits, bits) - 1}
        {@const crossed = Math.floor(bit / shape.rowBits) === row}
        {@const top = row * shape.rowHeight + (shape.rowHeight > 40 ? 5 : 0)}
        <div
          class:invisible={crossed}
          class={['tape-address left-0 pr-3 text-right', shape.rowHeight < 20 && 'text-xs']}
          style:top="{top}px"
          style:line-height={shape.rowHeight < 40 ? `${shape.rowHeight}px` : undefined}
        >
          <div class="min-w-0 wrap-anywhere">{side.controller.elementText}</div>
          {#if shape.rowHeight > 40}
            <div class="text-xs text-faint">{side.controller.directElement}</div>
          {/if}
        </div>
        <div
          class:invisible={crossed}
          class={['tape-address right-0 pl-3', shape.rowHeight < 20 && 'text-xs']}
          style:top="{top}px"
          style:line-height={shape.rowHeight < 40 ? `${shape.rowHeight}px` : undefined}
        >
          <div class="min-w-0 wrap-anywhere">{side.device.unitText}</div>
          {#if shape.rowHeight > 40}
            <div class="min-w-0 text-xs wrap-anywhere text-faint">
              {#if side.device.block}
                of {side.device.block}
              {:else}
                byte{first >> 3 === last >> 3
                  ? ` ${first >> 3}`
                  : shape.highByteFirst
                    ? `s ${first >> 3} … ${last >> 3}`
                    : `s ${last >> 3} … ${first >> 3}`}
              {/if}
            </div>
          {/if}
        </div>
      {/each}

      <div
        bind:this={tape}
        class={[
          'tape-grid absolute left-[136px] touch-none border-base-300 bg-base-100/60',
          onedit ? 'cursor-crosshair' : 'cursor-default',
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
        {#if bits > 0}
          <div
            class="pointer-events-none absolute inset-x-0 h-0.5 bg-accent"
            style:top="{Math.floor(bit / shape.rowBits) * shape.rowHeight + shape.rowHeight / 2 - 1}px"
          ></div>
        {/if}
        {#each shown as s, i (`${s.signal.id}/${s.row}/${i}`)}
          <TapeBlock
            segment={s}
            {shape}
            {command}
            live={liveText(s.signal)}
            chosen={chosen?.id === s.signal.id}
            marked={marked?.has(s.signal.of) ?? false}
            resizable={onedit !== undefined}
          />
        {/each}

        {#if shades.some(Boolean)}
          <svg class="pointer-events-none absolute inset-0 z-[1]" {width} {height} aria-hidden="true">
            {#each shades as path, i (i)}
              <path d={path} fill="currentColor" opacity={[0.34, 0.2, 0.1][i]} />
            {/each}
          </svg>
        {/if}
        {#if marks}
          <svg class="pointer-events-none absolute inset-0 z-[1]" {width} {height} aria-hidden="true">
            <path d={marks} fill="currentColor" />
          </svg>
        {/if}

        {#each ghost as s, i (`ghost/${i}`)}
          <div
            class="pointer-events-none absolute z-[2] rounded-[5px] border-2 border-dashed border-base-content"
            style:left="{s.left + 1}px"
            style:top="{s.row * shape.rowHeight + 2}px"
            style:width="{s.width - 2}px"
            style:height="{shape.rowHeight - 4}px"
          ></div>
        {/each}
      </div>

      {#if bits > 0}
        <CrosshairLines {shape} {bit} {height} sides={bothSides(scene, bit)} />
      {/if}
    </div>
    {#if bits === 0}<p class="p-6 text-center text-faint">
        This image has no bytes. Give it a size in the line-up.
      </p>{/if}
  </div>
</div>
{#if legend}
  <BitLegend
    {scene}
    {shape}
    rows={shownRows}
    {signals}
    {chosen}
    onOf={(signal) => liveText(signal)?.on}
    {onpin}
  />
{/if}
