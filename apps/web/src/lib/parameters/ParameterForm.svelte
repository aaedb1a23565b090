<script lang="ts">
  import { roleTyped } from '$lib/controls/roleTyped.js';
  import {
    access,
    byteOrders,
    fieldTypeNames,
    fieldTypes,
    factsOfRole,
    isNumber,
    keyText,
    placeText,
    readKey,
    readPlace,
    readsOf,
    roleNames,
    roleText,
    type Device,
    type Parameter,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { labelsOf, labelsText, orderTexts } from '$lib/sight/fieldTexts.js';
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import LensEntry from '$lib/controls/LensEntry.svelte';

  interface Props {
    device: Device;
    parameter: Parameter;
    onremoved: () => void;
  }
  /** All entries of a parameter, edited where they stand. */
  let { device, parameter, onremoved }: Props = $props();
  const desk = useDesk();

  const arrange = (title: string, change: { parameters?: Parameter[]; removed?: string[] }) =>
    desk.edit({ edit: 'parameters.arrange', device: device.id, title, ...change });
  const set = (values: Partial<Parameter>) =>
    arrange(`change ${Object.keys(values).join(', ')} of ${parameter.name}`.slice(0, 80).trim(), {
      parameters: [{ ...parameter, ...values }],
    });
  const remove = () =>
    arrange(`remove ${parameter.name}`.slice(0, 80).trim(), { removed: [parameter.id] }) && onremoved();

  const findings = $derived(desk.findings.filter((f) => f.place.parameter === parameter.id));
  const number = $derived(isNumber(parameter));
  const reads = $derived(readsOf(parameter));
  const ratioText = (text: string) => text.trim().replace(',', '.');

  function setPlace(text: string): boolean {
    if (text.trim() === '') return set({ place: null });
    const place = readPlace(text);
    if (place) return set({ place });
    desk.note = {
      says: `${text} is no place of a parameter.`,
      cure: 'Write class 100 instance 1 attribute 5, holding 40, index 16#60FF subindex 0, or slot 1 subslot 1 index 100 byte 2.',
    };
    return false;
  }
  function setRole(text: string): boolean {
    const role = roleTyped(text, (note) => (desk.note = note));
    return role !== undefined && set({ role });
  }
  function setKey(text: string): boolean {
    const key = text.trim() === '' ? null : readKey(text);
    if (key !== undefined) return set({ key });
    desk.note = {
      says: `${text} is no key.`,
      cure: 'Write the code of the parameter that opens it, and its value: 2 = 1234.',
    };
    return false;
  }
  function setType(type: Parameter['type']) {
    const bits = fieldTypes[type].bits ?? Math.max(8, parameter.bits - (parameter.bits % 8));
    set({ type, bits });
  }
  const setScale = (key: 'factor' | 'offset') => (text: string) => {
    const scale = {
      factor: parameter.scale?.factor ?? '1',
      offset: parameter.scale?.offset ?? '0',
      [key]: ratioText(text) || (key === 'factor' ? '1' : '0'),
    };
    return set({ scale: scale.factor === '1' && scale.offset === '0' ? null : scale });
  };
  const setLimit = (end: 'minimum' | 'maximum') => (text: string) => {
    const limits = {
      minimum: parameter.limits?.minimum ?? null,
      maximum: parameter.limits?.maximum ?? null,
      [end]: ratioText(text) || null,
    };
    return set({ limits: limits.minimum === null && limits.maximum === null ? null : limits });
  };
</script>

<h2 class="text-lg font-semibold break-words">{parameter.name}</h2>
<p class="font-mono text-faint">{placeText(parameter.place) || 'its place is not known yet'}</p>

{#each findings as finding, i (i)}<FindingLine {finding} />{/each}

<h3 class="lens-heading">Parameter</h3>
<LensEntry
  title="name"
  wraps
  class="w-48"
  value={parameter.name}
  take={(text) => set({ name: text.trim() })}
/>
<LensEntry
  title="code in the manual"
  class="w-28 font-mono"
  value={parameter.code}
  placeholder="12"
  take={(text) => set({ code: text.trim() })}
/>
<LensEntry
  title="heading"
  class="w-44"
  value={parameter.group}
  take={(text) => set({ group: text.trim() })}
/>
<label class="my-1 flex flex-col text-faint">
  place
  <textarea
    class="textarea min-h-0 w-full font-mono text-base-content textarea-xs"
    rows="2"
    value={placeText(parameter.place)}
    placeholder="class 100 instance 1 attribute 5"
    onchange={({ currentTarget }) => {
      if (!setPlace(currentTarget.value)) currentTarget.value = placeText(parameter.place);
    }}></textarea>
</label>
<label class="lens-row">
  access
  <select
    class="inplace cursor-pointer"
    value={parameter.access}
    onchange={({ currentTarget }) => set({ access: currentTarget.value as Parameter['access'] })}
  >
    {#each access as way (way)}<option value={way}>{way}</option>{/each}
  </select>
</label>

<LensEntry
  title="role"
  class="w-40"
  value={parameter.role ? roleText(parameter.role) : ''}
  list="parameter-roles"
  take={setRole}
/>
<datalist id="parameter-roles">
  {#each roleNames.filter((name) => factsOfRole(name).reads !== 'text') as name (name)}<option value={name}
    ></option>{/each}
</datalist>
<LensEntry
  title="opened by"
  class="w-40 font-mono"
  value={keyText(parameter.key)}
  placeholder="2 = 1234"
  take={setKey}
/>

<h3 class="lens-heading">Value</h3>
<label class="lens-row">
  type
  <select
    class="inplace cursor-pointer font-mono"
    value={parameter.type}
    onchange={({ currentTarget }) => setType(currentTarget.value as Parameter['type'])}
  >
    {#each fieldTypeNames as type (type)}<option value={type}>{type}</option>{/each}
  </select>
</label>
{#if fieldTypes[parameter.type].bits === undefined}
  {@const unit = reads === 'text' || reads === 'bytes' ? 8 : 1}
  <LensEntry
    title={unit === 8 ? 'length, bytes' : 'length, bits'}
    class="w-16 font-mono"
    value={String(parameter.bits / unit)}
    take={(text) => set({ bits: Number(text) * unit })}
  />
{/if}
{#if parameter.bits > 8 && reads !== 'text' && reads !== 'bytes'}
  <label class="lens-row">
    order
    <select
      class="inplace min-w-0 cursor-pointer"
      value={parameter.order ?? ''}
      onchange={({ currentTarget }) => set({ order: (currentTarget.value || null) as Parameter['order'] })}
    >
      <option value="">as its protocol</option>
      {#each byteOrders as order (order)}<option value={order}>{orderTexts[order]}</option>{/each}
    </select>
  </label>
{/if}
{#if number}
  <LensEntry
    title="factor"
    class="w-28 font-mono"
    value={parameter.scale?.factor ?? ''}
    placeholder="1/10"
    take={setScale('factor')}
  />
  <LensEntry
    title="add"
    class="w-28 font-mono"
    value={parameter.scale?.offset ?? ''}
    placeholder="0"
    take={setScale('offset')}
  />
  <LensEntry
    title="unit"
    class="w-20 font-mono"
    value={parameter.unit}
    take={(text) => set({ unit: text.trim() })}
  />
  <LensEntry
    title="minimum"
    class="w-28 font-mono"
    value={parameter.limits?.minimum ?? ''}
    take={setLimit('minimum')}
  />
  <LensEntry
    title="maximum"
    class="w-28 font-mono"
    value={parameter.limits?.maximum ?? ''}
    take={setLimit('maximum')}
  />
  <LensEntry
    title="default"
    class="w-28 font-mono"
    value={parameter.initial ?? ''}
    take={(text) => set({ initial: ratioText(text) || null })}
  />
{/if}
{#if reads !== 'text' && reads !== 'bytes'}
  <LensEntry
    title="labels"
    wraps
    class="w-44"
    value={labelsText(parameter.labels)}
    placeholder="0 = off, 1 = on"
    take={(text) => set({ labels: labelsOf(text) })}
  />
{/if}
<LensEntry
  title="note"
  wraps
  class="w-48"
  value={parameter.note}
  take={(text) => set({ note: text.trim() })}
/>

<button class="btn mt-6 btn-sm" title="Undo brings it back" onclick={remove}>Remove this parameter</button>
