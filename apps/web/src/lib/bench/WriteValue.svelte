<script lang="ts">
  import type { Signal } from '@fadenkreuz/core';
  import ArrowDownToLine from '@lucide/svelte/icons/arrow-down-to-line';
  import Activity from '@lucide/svelte/icons/activity';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import InPlace from '$lib/controls/InPlace.svelte';

  interface Props {
    deviceId: string;
    signal: Signal;
    /** A bit's state, or a number's text as it would be typed, and as it is shown. */
    on: boolean;
    plain: string;
    shown: string;
    /** The link does not stand: what is set now would go nowhere. What is being typed stays. */
    disabled?: boolean;
  }
  /**
   * Sets a value of a command image on the bench: bits are set, held down or given for a moment; numbers typed, counted
   * up, or chosen by their label.
   */
  let { deviceId, signal, on, plain, shown, disabled = false }: Props = $props();
  const desk = useDesk();

  const fewLabels = 4;
  const fewLetters = 30;

  const write = (value: string, hold = false) =>
    desk.askArmed('/write', { device: deviceId, field: signal.id, value, hold });
  /** The first key event of a press of the space bar or Enter; a held key repeats itself. */
  const isPress = (event: KeyboardEvent) => !event.repeat && (event.key === ' ' || event.key === 'Enter');

  /** The controller's task holds it as long as the wire needs. */
  const order = (how: 'pulse' | 'toggle' | 'increment', value: boolean | number) =>
    desk.askArmed('/command', { device: deviceId, order: { field: signal.id, bit: null, how, value } });

  const labels = $derived(signal.type === 'BOOL' ? [] : signal.labels);
  /** Labels that all have room are buttons: one press instead of a list that opens. */
  const few = $derived(
    labels.length > 0 &&
      labels.length <= fewLabels &&
      labels.reduce((sum, { text }) => sum + text.length, 0) <= fewLetters,
  );
  const counts = $derived(/^-?\d+$/.test(plain) && labels.length === 0 && signal.unit === '');
</script>

{#if signal.type === 'BOOL'}
  <span class="segment" role="group" aria-label="write {signal.name}">
    <button {disabled} aria-pressed={!on} onclick={() => write('0')}>0</button>
    <button {disabled} aria-pressed={on} onclick={() => write('1')}>1</button>
    <button
      {disabled}
      title="1 while it is pressed"
      aria-label="hold {signal.name}"
      onpointerdown={() => write('1', true)}
      onpointerup={() => write('0')}
      onpointercancel={() => write('0')}
      onkeydown={(event) => isPress(event) && write('1', true)}
      onkeyup={() => write('0')}><ArrowDownToLine size={13} aria-hidden="true" /></button
    >
    <button
      {disabled}
      title="1 for a moment: two updates of the link, or until it is acknowledged"
      aria-label="pulse {signal.name}"
      onclick={() => order('pulse', true)}><Activity size={13} aria-hidden="true" /></button
    >
  </span>
{:else}
  {#if few}
    <span class="segment flex-wrap" role="group" aria-label="choose {signal.name}">
      {#each labels as { value, text } (value)}
        <button {disabled} aria-pressed={String(value) === plain} onclick={() => write(String(value))}
          >{text}</button
        >
      {/each}
    </span>
  {:else if labels.length > 0}
    <select
      class="inplace max-w-44 cursor-pointer border-base-300"
      {disabled}
      aria-label="choose {signal.name}"
      value={labels.some(({ value }) => String(value) === plain) ? plain : ''}
      onchange={({ currentTarget }) => void write(currentTarget.value)}
    >
      {#if !labels.some(({ value }) => String(value) === plain)}<option value="" disabled>{shown}</option
        >{/if}
      {#each labels as { value, text } (value)}<option value={String(value)}>{value} {text}</option>{/each}
    </select>
  {/if}
  <InPlace
    class={['border-base-300 text-right', labels.length > 0 ? 'w-16' : 'w-28']}
    value={plain}
    label="write {signal.name}"
    take={(text) => (void write(text), true)}
  />
  {#if counts}
    <button
      class="btn btn-xs"
      {disabled}
      aria-label="one more for {signal.name}"
      title="one more; past its end it begins at its least again"
      onclick={() => order('increment', 0)}>+1</button
    >
  {/if}
  <span class="inline-block min-w-6 text-left">{signal.unit}</span>
{/if}
