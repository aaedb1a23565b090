<script lang="ts">
  import type { Signal } from '@fadenkreuz/core';
  import ArrowDownToLine from '@lucide/svelte/icons/arrow-down-to-line';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import InPlace from '$lib/controls/InPlace.svelte';

  interface Props {
    deviceId: string;
    signal: Signal;
    /** A bit's state, or a number's text as it would be typed. */
    on: boolean;
    plain: string;
    /** The link does not stand: a bit set now would go nowhere. What is being typed stays. */
    disabled?: boolean;
  }
  /** Sets a value of a command image on the bench: bits are set or held down, numbers typed. */
  let { deviceId, signal, on, plain, disabled = false }: Props = $props();
  const desk = useDesk();

  const write = (value: string, hold = false) =>
    void desk.askArmed('/write', { device: deviceId, field: signal.id, value, hold });
  /** The first key event of a press of the space bar or Enter; a held key repeats itself. */
  const isPress = (event: KeyboardEvent) => !event.repeat && (event.key === ' ' || event.key === 'Enter');
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
  </span>
{:else}
  <InPlace
    class="w-32 border-base-300 text-right"
    value={plain}
    label="write {signal.name}"
    take={(text) => (write(text), true)}
  />
  <span class="inline-block w-8 text-left">{signal.unit}</span>
{/if}
