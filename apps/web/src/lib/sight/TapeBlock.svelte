<script lang="ts">
  import { fitText, type Segment, type TapeShape } from './tape.js';
  import { typeText } from './fieldTexts.js';
  import { initialsOf } from './initials.js';

  /** A piece of a signal on the tape, with its name and, while bytes arrive, its value. */
  interface Props {
    segment: Segment;
    shape: TapeShape;
    command: boolean;
    live: { text: string; on: boolean } | undefined;
    chosen: boolean;
    marked: boolean;
    resizable: boolean;
  }
  let { segment, shape, command, live, chosen, marked, resizable }: Props = $props();

  const { signal } = $derived(segment);
  const single = $derived(signal.bits === 1);
  const roomy = $derived(shape.rowHeight > 40);
  /** For a text, px. */
  const room = $derived(segment.width - 18);
  const gap = $derived(shape.rowHeight > 20 ? 3 : 1);
  const filled = $derived(single && live?.on);
  const tone = $derived(
    filled
      ? command
        ? 'border-command bg-command text-base-100'
        : 'border-feedback bg-feedback text-base-100'
      : command
        ? 'border-command bg-command-fill'
        : 'border-feedback bg-feedback-fill',
  );
</script>

<div
  class={[
    'absolute flex overflow-hidden border leading-tight',
    roomy ? 'flex-col justify-center' : 'items-center',
    single && !roomy && 'justify-center',
    segment.begins && 'rounded-t-[5px]',
    segment.ends ? 'rounded-b-[5px]' : 'border-b-0',
    tone,
    chosen && 'outline-2 -outline-offset-2 outline-current',
    marked && 'border-2 border-dashed border-base-content',
  ]}
  style:left="{segment.left + 1}px"
  style:top="{segment.row * shape.rowHeight + (segment.begins ? gap : 0)}px"
  style:width="{segment.width - 1}px"
  style:height="{shape.rowHeight - (segment.begins ? gap : 0) - (segment.ends ? gap - 1 : 0)}px"
  style:border-top-style={segment.begins ? undefined : 'dashed'}
  title="{signal.name} · {typeText(signal)}"
  data-field={signal.id}
>
  {#if single}
    {#if shape.rowHeight > 20}
      <span class="overflow-hidden text-center font-mono text-xs"
        >{#if segment.width >= 20}{initialsOf(signal.name)}{/if}</span
      >
    {/if}
  {:else if segment.begins && roomy}
    <span class="px-2 text-[13px] font-semibold whitespace-nowrap">{fitText(signal.name, room)}</span>
    <span class="px-2 font-mono text-[12px] whitespace-nowrap"
      >{fitText(live?.text ?? typeText(signal), room)}</span
    >
  {:else if segment.begins}
    <span class="px-1.5 text-xs whitespace-nowrap"
      >{fitText(`${signal.name} ${live?.text ?? ''}`.trim(), room)}</span
    >
  {:else}
    <span class="px-2 font-mono text-xs whitespace-nowrap opacity-80"
      >{fitText(`${signal.name} …`, room)}</span
    >
  {/if}
  {#if resizable && segment.ends && segment.width > 12}
    <span
      class="absolute inset-y-0 left-0 z-[2] w-1.5 cursor-ew-resize opacity-0 hover:bg-current hover:opacity-60"
      data-resize={signal.id}
    ></span>
  {/if}
</div>
