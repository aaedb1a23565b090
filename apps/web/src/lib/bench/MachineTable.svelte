<script lang="ts">
  import { actedOn, identifierOf, namesOf, quantitiesOf, type MachineRow } from '@fadenkreuz/core';
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import InPlace from '$lib/controls/InPlace.svelte';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import NotebookPen from '@lucide/svelte/icons/notebook-pen';

  /** The machine around the devices: its quantities and what acts on each device, with what they are now. */
  const desk = useDesk();
  const machine = $derived(desk.cell.machine);
  const findings = $derived(desk.findings.filter((f) => f.code.startsWith('machine.')));
  const values = $derived(desk.running ? (desk.bench?.machine ?? {}) : {});

  const set = (row: MachineRow, part: Partial<Omit<MachineRow, 'id'>>) =>
    desk.edit({ edit: 'machine.set', row: row.id, set: part });
  const setFirst = (row: MachineRow, typed: string) => {
    const begins = Number(typed.trim().replace(',', '.'));
    return typed.trim() !== '' && Number.isFinite(begins) && set(row, { begins });
  };
  const acts = (row: MachineRow) => row.name.includes('.');

  let noted = $state('');
  let added = $state('');
  function add() {
    const name = added.trim();
    if (name === '') return;
    const [owner, what] = name.split('.').map((part) => identifierOf(part));
    const device = desk.cell.devices.find((d) => identifierOf(d.name) === owner);
    const unit = (device && quantitiesOf(device).find((q) => identifierOf(q.name) === what)?.unit) ?? '';
    if (desk.edit({ edit: 'machine.add', row: { id: crypto.randomUUID(), name, unit } })) added = '';
  }

  /** What may stand on the left, and what in an expression. */
  const targets = $derived(
    desk.cell.devices.flatMap((d) => actedOn(d).map((what) => `${identifierOf(d.name)}.${what}`)),
  );
  const meets = $derived(desk.cell.devices.filter((d) => quantitiesOf(d).length > 0));
  let shown = $state('');
  const looked = $derived(desk.cell.devices.find((d) => d.id === shown));
</script>

<section aria-label="machine around the devices">
  <p class="mb-1 text-faint">
    Each line is worked out anew every 20 ms, in this order: a quantity of the machine, or what acts on a
    device.
  </p>
  {#each findings as finding, i (i)}<FindingLine {finding} />{/each}
  <table class="w-full border-collapse text-sm">
    <thead>
      <tr class="text-left text-xs text-faint">
        <th class="w-[34%] py-1 font-normal">quantity, or device.quantity</th>
        <th class="font-normal">is</th>
        <th class="w-20 text-right font-normal">now</th>
        <th class="w-14 pl-2 font-normal">unit</th>
        <th class="w-14 font-normal">at first</th>
        <th class="w-14"></th>
      </tr>
    </thead>
    <tbody>
      {#each machine as row (row.id)}
        <tr class="border-b border-base-300 align-top">
          <td class="pr-2">
            <InPlace
              class="w-full font-mono"
              value={row.name}
              label="name of line {row.name}"
              list="machine-targets"
              take={(name) => set(row, { name: name.trim() })}
            />
          </td>
          <td class="pr-2">
            <InPlace
              wraps
              class="w-full font-mono"
              value={row.expression}
              label="expression of {row.name}"
              placeholder="stays as it begins"
              take={(expression) => set(row, { expression: expression.trim() })}
            />
            {#if row.note || noted === row.id}
              <InPlace
                wraps
                class="w-full text-xs text-faint"
                value={row.note}
                label="note on {row.name}"
                placeholder="why"
                take={(note) => set(row, { note: note.trim() })}
              />
            {/if}
          </td>
          <td class="py-0.5 text-right font-mono font-semibold" data-machine={row.name}
            >{values[row.id] ?? '–'}</td
          >
          <td class="pl-2">
            <InPlace
              class="w-full font-mono"
              value={row.unit}
              label="unit of {row.name}"
              take={(unit) => set(row, { unit: unit.trim() })}
            />
          </td>
          <td>
            {#if !acts(row)}
              <InPlace
                class="w-full font-mono"
                value={String(row.begins)}
                label="what {row.name} is at first"
                inputmode="decimal"
                take={(typed) => setFirst(row, typed)}
              />
            {/if}
          </td>
          <td>
            <div class="flex items-center justify-end">
              {#if !row.note}
                <button
                  class="cursor-pointer p-1"
                  aria-label="write a note on {row.name}"
                  title="write a note"
                  onclick={() => (noted = row.id)}><NotebookPen size={14} aria-hidden="true" /></button
                >
              {/if}
              <RemoveButton
                label="remove {row.name}"
                onclick={() => desk.edit({ edit: 'machine.remove', row: row.id })}
              />
            </div></td
          >
        </tr>
      {:else}
        <tr
          ><td class="py-2 text-faint" colspan="6">
            None: each stand-in acts as on a test bench, with nothing around it.
          </td></tr
        >
      {/each}
    </tbody>
  </table>
  <form
    class="mt-2 flex items-center gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      add();
    }}
  >
    <input
      class="input w-80 font-mono input-sm"
      aria-label="name of the new line"
      placeholder="tank_level, or scale_b1.load"
      list="machine-targets"
      autocomplete="off"
      spellcheck="false"
      bind:value={added}
    />
    <button class="btn btn-sm">Add a line</button>
    <label class="ml-auto flex items-center gap-2">
      names of
      <select class="select w-44 select-sm" bind:value={shown} aria-label="names of">
        <option value="">no device</option>
        {#each desk.cell.devices as device (device.id)}<option value={device.id}>{device.name}</option>{/each}
      </select>
    </label>
  </form>
  <datalist id="machine-targets"
    >{#each targets as target (target)}<option value={target}></option>{/each}</datalist
  >
  {#if looked}
    <p class="mt-2 text-sm text-faint">
      {#each quantitiesOf(looked) as quantity (quantity.name)}
        <span class="block"
          ><span class="font-mono">{identifierOf(looked.name)}.{identifierOf(quantity.name)}</span>
          acts on it: {quantity.title}{quantity.unit && `, ${quantity.unit}`}</span
        >
      {/each}
      <span class="font-mono break-words">{namesOf(looked).reads.join(', ')}</span>
    </p>
  {:else if machine.length === 0 && meets.length > 0}
    <p class="mt-2 text-sm text-faint">
      Something may act on {meets
        .map((d) => `${identifierOf(d.name)}.${identifierOf(quantitiesOf(d)[0]!.name)}`)
        .slice(0, 4)
        .join(', ')}.
    </p>
  {/if}
</section>
