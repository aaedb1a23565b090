<script lang="ts">
  import { bothSides, type AddressScene, type Signal } from '@fadenkreuz/core';
  import { alongTape, type TapeShape } from './tape.js';
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
  /** The names of single bits in full, row by row: on the tape a bit is too narrow for its name. */
  let { scene, shape, rows, signals, chosen, onOf, onpin }: Props = $props();

  const lines = $derived(
    rows.flatMap((row) => {
      const bits = signals
        .filter((s) => s.bits === 1 && Math.floor(alongTape(s.at, shape) / shape.rowBits) === row)
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
        <span class="w-20 shrink-0 truncate font-mono text-xs leading-5 text-faint">{title}</span>
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
            {#if shape.rowHeight > 20 && !signal.name.startsWith(initialsOf(signal.name))}<span
                class="text-faint">{initialsOf(signal.name)}</span
              >{/if}
            {signal.name}</button
          >
        {/each}
      </p>
    {/each}
  </div>
{/if}
