<script lang="ts">
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { atPort, imageTitle, type Edit } from '@fadenkreuz/core';
  import { dataBytes, portParameters, processDataFields, type Iodd } from '@fadenkreuz/core/describers';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  interface Props {
    iodd: Iodd;
    ondone: (id: string) => void;
    oncancel: () => void;
  }
  /**
   * An IO-Link device at a port of a master: its process data become fields of the master's images, its variables
   * parameters behind the port.
   */
  let { iodd, ondone, oncancel }: Props = $props();
  const desk = useDesk();

  /** Devices that may be its master; masters first. */
  const masters = $derived(
    [...desk.cell.devices].sort(
      (a, b) => Number(b.kind === 'IO-Link master') - Number(a.kind === 'IO-Link master'),
    ),
  );
  let masterId = $state<string>();
  const master = $derived(masters.find(({ id }) => id === masterId) ?? masters[0]);
  const link = $derived(master?.links[0]);
  const rules = $derived(master?.description.portRules);
  /** The first port at which nothing is planned, until one is chosen. */
  const free = $derived.by(() => {
    const taken = new Set(master?.description.ports.map(({ port }) => port));
    for (let port = 1; ; port += 1) if (!taken.has(port)) return port;
  });
  let chosenPort = $state<number>();
  const port = $derived(chosenPort ?? free);

  /** Of several process data one holds at a time, by the value of a variable. */
  let variant = $state(0);
  const data = $derived(iodd.processData[Math.min(variant, iodd.processData.length - 1)]);
  let withParameters = $state(true);

  /** Where they begin, as the master's rules or the person says it. */
  let typed = $state<{ feedback?: number; command?: number }>({});
  const sides = $derived(
    (
      [
        ['feedback', data?.input, rules?.input],
        ['command', data?.output, rules?.output],
      ] as const
    ).flatMap(([direction, side, places]) => {
      if (!side) return [];
      const byte = typed[direction] ?? (places ? atPort(places, port) : 0);
      return [{ direction, side, byte, fields: processDataFields(side, byte, () => crypto.randomUUID()) }];
    }),
  );
  const parameters = $derived(
    withParameters ? portParameters(iodd, { port, group: iodd.device.name }, () => crypto.randomUUID()) : [],
  );

  function put(event: SubmitEvent) {
    event.preventDefault();
    if (!master || !link) return;
    const { vendorId, deviceId, name } = iodd.device;
    const edit: Edit = {
      ...{ edit: 'port.set', device: master.id, port, parameters },
      holds: {
        ...{ port, name: name.slice(0, 64), vendorId, deviceId, productName: name.slice(0, 64) },
        inputBytes: data?.input ? dataBytes(data.input) : 0,
        outputBytes: data?.output ? dataBytes(data.output) : 0,
      },
      layouts: sides.map(({ direction, fields }) => ({ image: link[direction].id, fields })),
    };
    if (desk.edit(edit)) ondone(master.id);
  }
</script>

<form onsubmit={put} class="mt-3 flex flex-col gap-2.5">
  <label class="flex flex-col">
    at a port of
    <LongSelect
      class="font-mono"
      text={master?.name ?? ''}
      value={master?.id ?? ''}
      onchange={({ currentTarget }) => {
        masterId = currentTarget.value;
        chosenPort = undefined;
        typed = {};
      }}
    >
      {#each masters as option (option.id)}<option value={option.id}>{option.name}</option>{/each}
    </LongSelect>
  </label>
  <label class="flex flex-col"
    >port<input
      class="input font-mono input-sm"
      type="number"
      min="1"
      max="255"
      value={port}
      oninput={({ currentTarget }) => {
        chosenPort = currentTarget.valueAsNumber || undefined;
        typed = {};
      }}
    /></label
  >
  {#if iodd.processData.length > 1}
    <fieldset>
      <legend class="lens-heading">Process data</legend>
      {#each iodd.processData as { id, input, output, condition }, i (id)}
        <label class="flex cursor-pointer items-baseline gap-2 border-b border-base-300 py-1">
          <input type="radio" class="radio radio-xs" bind:group={variant} value={i} />
          <span class="min-w-0">
            {input?.name || output?.name || id}
            {#if condition}<span class="block text-xs text-faint"
                >while {condition.variable} is {condition.value}</span
              >{/if}
          </span>
        </label>
      {/each}
    </fieldset>
  {/if}
  {#each sides as { direction, side, byte, fields } (direction)}
    <div>
      <p class={direction === 'feedback' ? 'text-feedback' : 'text-command'}>
        {direction === 'feedback' ? '◂' : '▸'}
        {side.name || side.id} <span class="font-mono">{dataBytes(side)} B</span>
      </p>
      <label class="lens-row"
        >from byte of {master ? imageTitle(master, direction) : direction}<input
          class="input w-20 text-right font-mono input-sm"
          type="number"
          min="0"
          value={byte}
          oninput={({ currentTarget }) =>
            (typed = { ...typed, [direction]: currentTarget.valueAsNumber || 0 })}
        /></label
      >
      <ul class="text-[13px]" aria-label="{direction} fields">
        {#each fields as field (field.id)}
          <li class="flex justify-between border-b border-base-300 py-0.5">
            <span class="min-w-0 font-mono break-words">{field.name}</span>
            <span class="font-mono text-faint">{field.at >> 3}.{field.at & 7} {field.type} {field.bits}</span>
          </li>
        {/each}
      </ul>
    </div>
  {/each}
  <label class="flex items-center gap-2"
    ><input type="checkbox" class="checkbox checkbox-sm" bind:checked={withParameters} />with its {portParameters(
      iodd,
      { port, group: iodd.device.name },
      () => '',
    ).length} parameters</label
  >
  <div class="mt-1 flex gap-2">
    <button class="btn btn-primary btn-sm" type="submit" disabled={!link}>Put it at port {port}</button>
    <button class="btn btn-sm" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>
