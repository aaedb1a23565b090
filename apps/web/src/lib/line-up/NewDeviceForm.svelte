<script lang="ts">
  import { deviceKinds, freeAddress, nextName, protocolById, readManualLine } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { deviceFrom, protocolsByHand, withLine, type NewDevice } from './newDevice.js';
  import { untrack } from 'svelte';

  let { ondone, oncancel }: { ondone: (id: string) => void; oncancel: () => void } = $props();
  const desk = useDesk();

  /** The entries that are whole numbers. */
  type Count = {
    [K in keyof NewDevice]: NewDevice[K] extends number ? K : never;
  }[keyof NewDevice];
  const entry: NewDevice = $state(
    untrack(() => ({
      name: nextName(desk.cell, 'other'),
      designation: '',
      kind: 'other',
      maker: '',
      address: freeAddress(desk.cell, 'other'),
      protocol: 'ethernet-ip',
      commandInstance: 100,
      commandCount: 2,
      feedbackInstance: 101,
      feedbackCount: 2,
      configurationInstance: 102,
      unitBytes: 2,
      ...{ commandStart: 0, commandRegisters: 2, feedbackTable: 'input' },
      ...{ feedbackStart: 0, feedbackRegisters: 2 },
      updateMs: 20,
    })),
  );

  /** What was proposed: it follows the kind until somebody types another. */
  let proposed = untrack(() => ({ name: entry.name, address: entry.address }));
  function ofKind() {
    const next = { name: nextName(desk.cell, entry.kind), address: freeAddress(desk.cell, entry.kind) };
    if (entry.name === proposed.name) entry.name = next.name;
    if (entry.address === proposed.address) entry.address = next.address;
    proposed = next;
  }

  let line = $state('');
  const understood = $derived(line.trim() === '' ? undefined : readManualLine(line));
  function take(text: string) {
    line = text;
    const read = readManualLine(text);
    if (read) Object.assign(entry, withLine(entry, read));
  }
  function swap() {
    const { commandInstance, commandCount } = entry;
    Object.assign(entry, {
      ...{ commandInstance: entry.feedbackInstance, commandCount: entry.feedbackCount },
      ...{ feedbackInstance: commandInstance, feedbackCount: commandCount },
    });
  }
  const bytes = (count: number) => (Number.isFinite(count) ? count * entry.unitBytes : 0);

  function add(event: SubmitEvent) {
    event.preventDefault();
    const device = deviceFrom(desk.cell, { ...entry }, () => crypto.randomUUID());
    if (desk.edit({ edit: 'device.add', device })) ondone(device.id);
  }
</script>

{#snippet count(title: string, key: Count)}
  <label class="flex flex-col"
    >{title}<input class="input font-mono input-sm" type="number" bind:value={entry[key]} required /></label
  >
{/snippet}

<form onsubmit={add} class="flex flex-col gap-2.5">
  <h2 class="text-lg font-semibold">Add a device by hand</h2>
  <p class="text-faint">For a device of which only the manual's table is known.</p>
  <label class="flex flex-col">
    protocol
    <select class="select select-sm" bind:value={entry.protocol}>
      {#each protocolsByHand as id (id)}<option value={id}>{protocolById(id).title}</option>{/each}
    </select>
  </label>
  <label class="flex flex-col"
    >name<input class="input font-mono input-sm" bind:value={entry.name} required maxlength="64" /></label
  >
  <label class="flex flex-col"
    >designation<input
      class="input font-mono input-sm"
      bind:value={entry.designation}
      placeholder="=RS3+U1-X1"
    /></label
  >
  <label class="flex flex-col">
    kind
    <select class="select select-sm" bind:value={entry.kind} onchange={ofKind}>
      {#each deviceKinds as kind (kind)}<option>{kind}</option>{/each}
    </select>
  </label>
  <label class="flex flex-col">maker<input class="input input-sm" bind:value={entry.maker} /></label>
  <label class="flex flex-col"
    >address<input class="input font-mono input-sm" bind:value={entry.address} required /></label
  >
  {#if entry.protocol === 'ethernet-ip'}
    <label class="flex flex-col"
      >the manual’s line<textarea
        class="textarea font-mono textarea-sm"
        rows="2"
        aria-label="the manual’s line"
        placeholder="input 131 size 7, output 141 size 6, configuration 151 size 0, 32-bit"
        spellcheck="false"
        value={line}
        oninput={(event) => take(event.currentTarget.value)}></textarea></label
    >
    {#if understood}
      <ul class="flex flex-col gap-1 text-sm" aria-label="doubtful in the line">
        {#each understood.doubts as doubt (doubt.code + doubt.says)}
          <li class="border-l-[3px] border-base-content pl-2">
            {doubt.says} <span class="text-faint">{doubt.cure}</span>
            {#if doubt.code === 'manualLine.whoseInput'}
              <button class="btn btn-xs" type="button" onclick={swap}>Swap</button>
            {/if}
          </li>
        {:else}
          <li class="text-faint">Nothing in it is doubtful.</li>
        {/each}
      </ul>
    {:else if line.trim() !== ''}
      <p class="text-sm text-faint">It names no instance yet.</p>
    {/if}
    <label class="flex flex-col">
      sizes are counted in
      <select class="select select-sm" bind:value={entry.unitBytes}>
        <option value={1}>bytes</option>
        <option value={2}>16-bit elements</option>
        <option value={4}>32-bit elements</option>
      </select>
    </label>
    {#snippet image(side: 'command' | 'feedback', arrow: string, tone: string)}
      {@const size = side === 'command' ? 'commandCount' : 'feedbackCount'}
      {@const instance = side === 'command' ? 'commandInstance' : 'feedbackInstance'}
      <fieldset class="grid grid-cols-[1fr_1fr] gap-2">
        <legend class={['font-medium', tone]}>{arrow} {side} image</legend>
        {@render count('instance', instance)}
        {@render count('size', size)}
        <p class="col-span-2 text-xs text-faint">
          = <span class="font-mono">{bytes(entry[size])}</span> bytes
        </p>
      </fieldset>
    {/snippet}
    {@render image('command', '▸', 'text-command')}
    {@render image('feedback', '◂', 'text-feedback')}
    {@render count('configuration', 'configurationInstance')}
  {:else}
    <fieldset class="grid grid-cols-[1fr_1fr] gap-2">
      <legend class="font-medium text-command">▸ registers that are written</legend>
      {@render count('first holding register', 'commandStart')}
      {@render count('how many', 'commandRegisters')}
    </fieldset>
    <fieldset class="grid grid-cols-[1fr_1fr] gap-2">
      <legend class="font-medium text-feedback">◂ registers that are read</legend>
      {@render count('first', 'feedbackStart')}
      {@render count('how many', 'feedbackRegisters')}
      <label class="col-span-2 flex flex-col"
        >of the<select class="select select-sm" bind:value={entry.feedbackTable}>
          <option value="input">input registers</option>
          <option value="holding">holding registers</option>
        </select></label
      >
    </fieldset>
    <p class="text-xs text-faint">
      Addresses as they are on the wire, from 0: reference 400101 is 100. The register list itself is pasted
      in the Sight, as a table.
    </p>
  {/if}
  <label class="flex flex-col"
    >update, ms<input
      class="input font-mono input-sm"
      type="number"
      step="any"
      bind:value={entry.updateMs}
      required
    /></label
  >
  <div class="mt-1 flex gap-2">
    <button class="btn btn-primary btn-sm" type="submit">Add</button>
    <button class="btn btn-sm" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>
