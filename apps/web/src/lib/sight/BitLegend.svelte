<script lang="ts">
  import { bothSides, type AddressScene, type Signal } from '@fadenkreuz/core';
  import { alongTape, isNameCut, type TapeShape } from './tape.js';
  import { initialsOf } from './initials.js';

  interface Props {
    scene: AddressScene;
    shape: TapeShape;
    /** The rows of the tape that are in sight. */
    rows: readonly number[];
    signals: readonly Signal[];
    chosen: Signal | undefined;
    onOf: (signal: Signal) => boolean | undefined;
    onpin: (bit: number) => void;
  }
  /** The names that have no room on the tape in full, row by row: those of single bits, and long ones. */
  let { scene, shape, rows, signals, chosen, onOf, onpin }: Props = $props();

  const lines = $derived(
    rows.flatMap((row) => {
      const bits = signals
        .filter((s) => isNameCut(s, shape) && Math.floor(alongTape(s.at, shape) / shape.rowBits) === row)
        .map((signal) => ({ signal, place: alongTape(signal.at, shape) % shape.rowBits }))
        .sort((a, b) => a.place - b.place);
      const { elementText } = bothSides(scene, row * shape.rowBits).controller;
      return bits.length === 0 ? [] : [{ row, title: elementText, bits }];
    }),
  );
</script>

{#if lines.length > 0}
  <div
    class="mt-2 max-h-40 shrink-0 overflow-y-auto border-t border-base-300 pt-1"
    aria-label="names of the bits"
  >
    {#each lines as { row, title, bits } (row)}
      <p class="flex flex-wrap gap-x-3 text-[13px]">
        <span class="w-20 min-w-0 shrink-0 font-mono text-xs leading-5 wrap-anywhere text-faint">{title}</span
        >
        {#each bits as { signal, place } (signal.id)}
          {@const on = onOf(signal)}
          <button
            class={[
              'min-h-[24px] cursor-pointer font-mono break-all',
              chosen?.id === signal.id && 'font-bold underline',
            ]}
            title={signal.note || undefined}
            onclick={() => onpin(signal.at)}
            ><span class="text-faint">{place}</span>
            {#if on !== undefined}<span aria-hidden="true">{on ? '■' : '□'}</span>{/if}
            {#if signal.bits === 1 && shape.rowHeight > 20}<span class="text-faint"
                >{initialsOf(signal.name)}</span
              >{/if}
            {signal.name}</button
          >
        {/each}
      </p>
    {/each}
  </div>
{/if}
