<script lang="ts">
  import { figureText as figure } from '@fadenkreuz/core';

  interface Props {
    title: string;
    text: string;
    /** Between what it may be; null: nothing says so. */
    range: { low: number; high: number } | null;
    number: number | undefined;
  }
  /** A value while something is moved by hand: beside it what it may be, and where in it it lies. */
  let { title, text, range, number }: Props = $props();
  const outside = $derived(
    range !== null && number !== undefined && (number < range.low || number > range.high),
  );
  const share = $derived(
    range && number !== undefined
      ? Math.min(1, Math.max(0, (number - range.low) / (range.high - range.low)))
      : undefined,
  );
  const may = $derived(
    range &&
      (range.low === -range.high
        ? `± ${figure(range.high)}`
        : `${figure(range.low)} … ${figure(range.high)}`),
  );
</script>

<div class="grid grid-cols-[1fr_auto] items-center gap-x-2 border-b border-base-300 py-0.5">
  <dt class="text-sm text-faint">{title}</dt>
  <dd class={['text-right font-mono text-sm', outside && 'font-semibold text-error']} data-moved={title}>
    {outside ? '▲ ' : ''}{text}
  </dd>
  {#if range}
    <dd class="relative h-1 bg-base-300" aria-hidden="true">
      {#if share !== undefined}
        <span class="absolute -top-0.5 h-2 w-0.5 bg-base-content" style:left="{share * 100}%"></span>
      {/if}
    </dd>
    <dd class="text-right font-mono text-xs text-faint">{may}</dd>
  {/if}
</div>
