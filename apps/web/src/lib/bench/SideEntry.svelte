<script lang="ts">
  import { bitWays, numberWays, type SideValue, type Signal } from '@fadenkreuz/core';
  import InPlace from '$lib/controls/InPlace.svelte';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  interface Props {
    deviceId: string;
    signal: Signal;
    /** What it is set to by hand; undefined: the device shows it by itself. */
    held: SideValue | undefined;
    on: boolean;
    /** Its value as it would be typed. */
    plain: string;
  }
  /** Sets one signal on the device's side: at once, or moving by itself. */
  let { deviceId, signal, held, on, plain }: Props = $props();
  const desk = useDesk();

  const bit = $derived(signal.type === 'BOOL');
  const text = $derived(signal.type === 'STRING' || signal.type === 'BYTES');
  /** What moves by itself, as it is at first. */
  const usual = { pulse: { ms: 500 }, toggle: { periodMs: 1000 } };
  const spans = { low: 0, high: 100, periodMs: 5000 };
  const titles: Record<string, string> = { low: 'from', high: 'to', periodMs: 'period, ms', ms: 'ms' };

  const set = (value: SideValue | null) =>
    desk.ask('POST', '/side', { device: deviceId, field: signal.id, value });
  const choose = (way: SideValue['way']) =>
    set(
      way === 'value'
        ? { way, value: bit ? (on ? '1' : '0') : plain }
        : way === 'pulse'
          ? { way, ...usual.pulse }
          : way === 'toggle'
            ? { way, ...usual.toggle }
            : { way, ...spans, ...limits() },
    );
  /** A signal with limits moves between them. */
  function limits(): { low?: number; high?: number } {
    const [low, high] = [signal.limits?.minimum, signal.limits?.maximum].map((l) => Number(l ?? NaN));
    return Number.isFinite(low) && Number.isFinite(high) ? { low: low!, high: high! } : {};
  }
  const entries = $derived(
    held && held.way !== 'value' ? Object.entries(held).filter(([key]) => key !== 'way') : [],
  );
  function change(key: string, typed: string): boolean {
    const number = Number(typed.replace(',', '.'));
    if (!held || typed.trim() === '' || !Number.isFinite(number)) return false;
    void set({ ...held, [key]: number } as SideValue);
    return true;
  }
</script>

<span class="flex flex-wrap items-center gap-1">
  {#if !held || held.way === 'value'}
    {#if bit}
      <span class="segment" role="group" aria-label="set {signal.name}">
        <button aria-pressed={!!held && !on} onclick={() => set({ way: 'value', value: '0' })}>0</button>
        <button aria-pressed={!!held && on} onclick={() => set({ way: 'value', value: '1' })}>1</button>
      </span>
    {:else}
      <InPlace
        class="w-24 border-base-300 text-right"
        value={held?.way === 'value' ? held.value : ''}
        label="set {signal.name}"
        take={(typed) => (void set({ way: 'value', value: typed }), true)}
      />
      {#if signal.unit}<span class="text-xs text-faint">{signal.unit}</span>{/if}
    {/if}
  {/if}
  {#if !text}
    <select
      class="inplace cursor-pointer text-xs"
      aria-label="how {signal.name} is set"
      value={held?.way ?? ''}
      onchange={({ currentTarget }) => void choose(currentTarget.value as SideValue['way'])}
    >
      {#if !held}<option value="">by itself</option>{/if}
      {#each bit ? bitWays : numberWays as way (way)}<option>{way}</option>{/each}
    </select>
  {/if}
  {#each entries as [key, value] (key)}
    <label class="flex items-center gap-1 text-xs text-faint">
      {titles[key]}
      <InPlace
        class="w-14 border-base-300 text-right"
        value={String(value)}
        label="{titles[key]} of {signal.name}"
        take={(typed) => change(key, typed)}
      />
    </label>
  {/each}
  {#if held}
    <RemoveButton
      label="let {signal.name} go"
      title="The device shows it by itself again"
      onclick={() => set(null)}
    />
  {/if}
</span>
