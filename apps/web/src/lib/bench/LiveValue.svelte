<script lang="ts">
  import type { Signal } from '@fadenkreuz/core';
  import type { Reading } from './readings.js';
  import WriteValue from './WriteValue.svelte';

  interface Props {
    deviceId: string;
    signal: Signal;
    reading: Reading | undefined;
    /** Whether it may be written; `waits`: once the link stands again. */
    writable: boolean;
    waits: boolean;
    /** No value of the device is one of now; its block alone was not answered in time. */
    stale: boolean;
    late: boolean;
  }
  /** A value of the bench, or what sets it. */
  let { deviceId, signal, reading, writable, waits, stale, late }: Props = $props();
</script>

{#if writable && reading}
  <WriteValue
    {deviceId}
    {signal}
    on={reading.value === true}
    plain={reading.plain}
    shown={reading.text}
    disabled={waits}
  />
{:else}
  {#if signal.type === 'BOOL' && reading}<span aria-hidden="true">{reading.value ? '■' : '□'}</span>{/if}
  <span class={[(stale || late) && 'text-faint italic']}>{reading?.text ?? '–'}</span>
  {#if !stale && late}<span title="its block was not answered in time">▲ stale</span>{/if}
{/if}
