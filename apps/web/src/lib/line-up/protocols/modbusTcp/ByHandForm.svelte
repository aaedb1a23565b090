<script lang="ts">
  import type { Direction } from '@fadenkreuz/core';
  import { holdsBits } from '@fadenkreuz/core/devices';
  import { runOf, tablesFor, type Runs } from './fromManual.js';
  import { noRegister, stretchText, tableTitles } from './registers.js';

  /** The registers of a device, as its manual's list says. */
  let { entry }: { entry: Runs } = $props();

  function start(direction: Direction, field: HTMLInputElement) {
    entry[direction].start = field.value;
    const { table, start: first } = runOf(entry[direction]);
    const allowed: readonly string[] = tablesFor[direction];
    const { says, cure } = noRegister(field.value);
    if (Number.isNaN(first)) field.setCustomValidity(`${says} ${cure}`);
    else if (!allowed.includes(table)) field.setCustomValidity(`${tableTitles[table]} cannot be written.`);
    else {
      field.setCustomValidity('');
      entry[direction].table = table;
    }
  }
</script>

{#snippet run(direction: Direction, title: string, tone: string)}
  {@const meant = runOf(entry[direction])}
  <fieldset class="grid grid-cols-[1fr_1fr] gap-2">
    <legend class={['font-medium', tone]}>{title}</legend>
    <label class="flex flex-col"
      >first, or its reference<input
        class="input font-mono input-sm"
        value={entry[direction].start}
        oninput={(event) => start(direction, event.currentTarget)}
        required
      /></label
    >
    <label class="flex flex-col"
      >how many<input
        class="input font-mono input-sm"
        type="number"
        bind:value={entry[direction].count}
        required
      /></label
    >
    <label class="col-span-2 flex flex-col"
      >of the<select class="select select-sm" bind:value={entry[direction].table}>
        {#each tablesFor[direction] as table (table)}<option value={table}>{tableTitles[table]}</option
          >{/each}
      </select></label
    >
    <p class="col-span-2 text-xs text-faint">
      {#if Number.isNaN(meant.start)}{noRegister(entry[direction].start).says}
      {:else if meant.count > 0}= {holdsBits(meant.table) ? 'bits' : 'registers'}
        <span class="font-mono">{stretchText(meant)}</span>
      {:else}none{/if}
    </p>
  </fieldset>
{/snippet}

{@render run('command', '▸ what is written', 'text-command')}
{@render run('feedback', '◂ what is read', 'text-feedback')}
<p class="text-xs text-faint">
  Addresses as they are on the wire, from 0 (100, 0x64), or references (400101). The register list itself is
  pasted in the Sight, as a table.
</p>
