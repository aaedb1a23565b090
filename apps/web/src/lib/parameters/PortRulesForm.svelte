<script lang="ts">
  import { PortRules, wholeEntry, type Device } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** How a master passes requests on to its ports, and where their process data begin. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();
  const rules = $derived(device.description.portRules ?? PortRules.parse({}));
  const requests = $derived(rules.requests);
  type Requests = NonNullable<PortRules['requests']>;

  const starts: Record<Requests['by'], Requests> = {
    service: {
      ...{ by: 'service', class: 0x64, instance: { first: 1, step: 1 }, attribute: null },
      ...{ read: 0x4b, write: 0x4c, order: 'little' },
    },
    registers: { by: 'registers', request: { first: 0, step: 240 }, answer: { first: 120, step: 240 } },
  };
  const set = (change: Partial<PortRules>) =>
    desk.edit({
      ...{ edit: 'description.set', device: device.id },
      set: { portRules: { ...rules, ...change } },
    });
  const setRequests = (change: Record<string, unknown>) =>
    requests && set({ requests: { ...requests, ...change } as Requests });

  type Entry = [label: string, value: number | null, set: (value: number | null) => unknown];
  /** A number that rises from port to port, as two entries. */
  const byPort = (
    label: string,
    at: { first: number; step: number } | null,
    put: (at: { first: number; step: number } | null) => unknown,
  ): Entry[] => [
    [
      `${label} of port 1`,
      at?.first ?? null,
      (first) => put(first === null ? null : { first, step: at?.step ?? 1 }),
    ],
    ['further from port to port', at?.step ?? null, (step) => at && put({ ...at, step: step ?? 1 })],
  ];
  const entries = $derived.by((): Entry[] => {
    const one = (label: string, value: number | null, key: string): Entry => [
      label,
      value,
      (next) => setRequests({ [key]: next }),
    ];
    const data: Entry[] = [
      ...byPort('first feedback byte', rules.input, (input) => set({ input })),
      ...byPort('first command byte', rules.output, (output) => set({ output })),
    ];
    if (requests?.by === 'service')
      return [
        one('class', requests.class, 'class'),
        ...byPort('instance', requests.instance, (instance) => instance && setRequests({ instance })),
        one('attribute', requests.attribute, 'attribute'),
        one('service to read', requests.read, 'read'),
        one('service to write', requests.write, 'write'),
        ...data,
      ];
    if (requests?.by === 'registers')
      return [
        ...byPort('request register', requests.request, (request) => request && setRequests({ request })),
        ...byPort('answer register', requests.answer, (answer) => answer && setRequests({ answer })),
        ...data,
      ];
    return data;
  });
</script>

<details class="mt-2 text-[13px]">
  <summary class="cursor-pointer">How requests reach the ports</summary>
  <label class="lens-row">
    by
    <select
      class="select max-w-44 select-sm"
      value={requests?.by ?? ''}
      onchange={({ currentTarget: { value } }) =>
        set({ requests: value === '' ? null : starts[value as Requests['by']] })}
    >
      <option value="">not known</option>
      <option value="service">a service of an object</option>
      <option value="registers">registers (mailbox)</option>
    </select>
  </label>
  {#each entries as [label, value, put], i (i)}
    <label class="lens-row">
      {label}
      <input
        class="input w-24 text-right font-mono input-sm"
        inputmode="numeric"
        value={value ?? ''}
        onchange={({ currentTarget }) => put(wholeEntry(currentTarget.value) ?? null)}
      />
    </label>
  {/each}
  <p class="mt-1 text-xs text-faint">
    As the manual of the master says it. A service takes index, subindex and the value; a mailbox takes what
    is wanted, index, subindex, bytes and the value, and answers with state, error, bytes and the value.
  </p>
</details>
