<script lang="ts">
  import { noRole, roleTyped } from '$lib/controls/roleTyped.js';
  import type { Note } from '$lib/desk/send.js';
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    byteOrders,
    codecOf,
    fieldTypeNames,
    fieldTypes,
    isNumber,
    radixes,
    asSignal,
    factsOfRole,
    imagesOf,
    rangeOf,
    readsOf,
    roleNames,
    roleText,
    type Field,
    type Image,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { retypeField } from './fieldEdits.js';
  import {
    bitLabelsOf,
    bitRolesOf,
    bitRolesText,
    bitLabelsText,
    decimalsOf,
    decimalsText,
    labelsOf,
    labelsText,
    orderTexts,
    signOf,
    signText,
    specialsOf,
    specialsText,
  } from './fieldTexts.js';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import ScaleForm from './ScaleForm.svelte';

  /** All entries of a field, edited where they stand. */
  interface Props {
    image: Image;
    field: Field;
    nameInput?: HTMLInputElement | undefined;
  }
  let { image, field, nameInput = $bindable() }: Props = $props();
  const desk = useDesk();

  const set = (values: Partial<Field>) =>
    desk.edit({ edit: 'field.set', image: image.id, field: field.id, set: values });
  const device = $derived(
    desk.cell.devices.find((d) => d.links.some((link) => imagesOf(link).some(({ id }) => id === image.id))),
  );
  const number = $derived(isNumber(field));
  const reads = $derived(readsOf(field));

  function setPlace(text: string): boolean {
    const match = /^\s*(-?\d+)(?:\s*[.·]\s*(\d+))?\s*$/.exec(text);
    return set({ at: match ? Number(match[1]) * 8 + Number(match[2] ?? 0) : NaN });
  }
  /** The raw number as the bench shows it now. */
  const raw = $derived.by(() => {
    const codec = codecOf(image);
    const at = codec.signals.findIndex((s) => s.of === field.id);
    const bytes = desk.bytes.get(image.id);
    if (at < 0 || !bytes || bytes.length < codec.bytes) return undefined;
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    return codec.numberAt(at);
  });
  const decimalText = (text: string) => text.trim().replace(',', '.');
  /** Roles that a field of this direction and this kind of value can have. */
  const fitting = $derived(
    roleNames.filter((name) => {
      const facts = factsOfRole(name);
      const wanted = reads === 'boolean' || field.bits === 1 ? 'bit' : reads === 'text' ? 'text' : 'number';
      return (facts.direction === 'either' || facts.direction === image.direction) && facts.reads === wanted;
    }),
  );
  const tell = (note: Note) => void (desk.note = note);
  function setRole(text: string): boolean {
    const role = roleTyped(text, tell);
    return role !== undefined && set({ role });
  }
  function setBitRoles(text: string): boolean {
    const bitRoles = bitRolesOf(text);
    if (bitRoles) return set({ bitRoles });
    tell(noRole(text));
    return false;
  }
  const setFactor = (text: string) =>
    set({
      scale: text.trim() === '' ? null : { factor: decimalText(text), offset: field.scale?.offset ?? '0' },
    });
  const setOffset = (text: string) =>
    set({ scale: { factor: field.scale?.factor ?? '1', offset: decimalText(text) || '0' } });
  const setLimit = (end: 'minimum' | 'maximum') => (text: string) => {
    const limits = {
      minimum: field.limits?.minimum ?? null,
      maximum: field.limits?.maximum ?? null,
      [end]: decimalText(text) || null,
    };
    return set({ limits: limits.minimum === null && limits.maximum === null ? null : limits });
  };
  /** Takes an entry that names a field of the image; another name is refused with the note that says so. */
  function named<T>(value: T | undefined, take: (value: T) => boolean, text: string): boolean {
    if (value !== undefined) return take(value);
    desk.note = {
      says: `${text} is no field of this image.`,
      cure: 'Write its name as the tape shows it.',
    };
    return false;
  }
  function setArray(text: string): boolean {
    if (text.trim() === '' || text.trim() === '1') return set({ array: null });
    const match = /^\s*(\d+)(?:\s*every\s*(\d+))?\s*$/.exec(text);
    return set({ array: { count: Number(match?.[1]), stride: Number(match?.[2] ?? field.bits) } });
  }
  const length = $derived(
    reads === 'text' || reads === 'bytes'
      ? { title: 'length, bytes', unit: 8 }
      : { title: 'length, bits', unit: 1 },
  );
</script>

<LensSection title="Field">
  <LensEntry
    title="name"
    wraps
    class="w-44 font-mono"
    value={field.name}
    take={(name) => set({ name: name.trim() })}
    bind:element={nameInput}
  />
  <label class="lens-row">
    type
    <select
      class="inplace cursor-pointer font-mono"
      value={field.type}
      onchange={(event) => desk.edit(retypeField(image, field, event.currentTarget.value as Field['type']))}
    >
      {#each fieldTypeNames as type (type)}<option>{type}</option>{/each}
    </select>
  </label>
  <LensEntry
    title="first bit, byte.bit"
    class="w-20 font-mono"
    value="{field.at >> 3}.{field.at & 7}"
    take={setPlace}
  />
  <LensEntry
    title={length.title}
    class="w-20 font-mono"
    value={String(field.bits / length.unit)}
    label={length.title.replace(', ', ' in ')}
    disabled={fieldTypes[field.type].bits !== undefined}
    take={(text) => set({ bits: Number(text) * length.unit })}
  />
  {#if number && field.bits > 1}
    <label class="lens-row">
      byte order
      <select
        class="inplace max-w-48 min-w-0 cursor-pointer"
        value={field.order ?? ''}
        onchange={(event) => set({ order: (event.currentTarget.value || null) as Field['order'] })}
      >
        <option value="">as the image{image.order ? `: ${image.order}` : ''}</option>
        {#each byteOrders as order (order)}<option value={order}>{orderTexts[order]}</option>{/each}
      </select>
    </label>
  {/if}
  <LensEntry
    title="repeated"
    class="w-36 font-mono"
    value={field.array ? `${field.array.count} every ${field.array.stride}` : ''}
    placeholder="once"
    label="array: count every so many bits"
    take={setArray}
  />
  {#if image.groups.length}
    <label class="lens-row">
      group
      <select
        class="inplace cursor-pointer"
        value={field.group ?? ''}
        onchange={(event) => set({ group: event.currentTarget.value || null })}
      >
        <option value="">none</option>
        {#each image.groups as group (group.id)}<option value={group.id}>{group.name}</option>{/each}
      </select>
    </label>
  {/if}
</LensSection>

{#if number}
  <LensSection title="Value">
    {#if reads !== 'float'}
      <LensEntry
        title="sign from"
        class="w-44 font-mono"
        value={signText(image, field.sign)}
        placeholder="its own type"
        label="sign from: offset, complement, or a field and its bit"
        take={(text) => named(signOf(image, text), (sign) => set({ sign }), text)}
      />
      <LensEntry
        title="decimal places"
        class="w-36 font-mono"
        value={decimalsText(image, field.decimals)}
        placeholder="none"
        label="decimal places: a number, or a field that says it"
        take={(text) => named(decimalsOf(image, text), (decimals) => set({ decimals }), text)}
      />
    {/if}
    <LensEntry
      title="factor"
      class="w-28 font-mono"
      value={field.scale?.factor ?? ''}
      placeholder="1/100"
      take={setFactor}
    />
    <LensEntry
      title="offset"
      class="w-28 font-mono"
      value={field.scale?.offset ?? ''}
      placeholder="0"
      take={setOffset}
    />
    <LensEntry
      title="unit"
      class="w-20 font-mono"
      value={field.unit}
      placeholder="none"
      take={(unit) => set({ unit: unit.trim() })}
    />
    {#if device}<ScaleForm {device} {field} {raw} take={(scale) => set({ scale })} />{/if}
    <LensEntry
      title="minimum"
      class="w-28 font-mono"
      value={field.limits?.minimum ?? ''}
      placeholder="any"
      take={setLimit('minimum')}
    />
    <LensEntry
      title="maximum"
      class="w-28 font-mono"
      value={field.limits?.maximum ?? ''}
      placeholder="any"
      take={setLimit('maximum')}
    />
    {#if reads !== 'float'}
      {@const range = rangeOf(asSignal(field))}
      <p class="mt-1 text-xs text-faint">
        Holds <span class="font-mono">{range.minimum}</span> to <span class="font-mono">{range.maximum}</span>
        {field.unit}; what is entered goes to the nearest raw number, halves away from zero.
      </p>
    {/if}
  </LensSection>
{/if}
{#if reads === 'text'}
  {@const form = field.text ?? { prefix: 0, encoding: 'ascii', pad: 0 }}
  <LensSection title="Text">
    <label class="lens-row">
      count before it
      <select
        class="inplace cursor-pointer"
        value={String(form.prefix)}
        onchange={(event) => set({ text: { ...form, prefix: Number(event.currentTarget.value) as 0 } })}
      >
        <option value="0">none</option>
        <option value="8">8 bits</option>
        <option value="16">16 bits</option>
      </select>
    </label>
    <label class="lens-row">
      encoding
      <select
        class="inplace cursor-pointer"
        value={form.encoding}
        onchange={(event) => set({ text: { ...form, encoding: event.currentTarget.value as 'ascii' } })}
      >
        <option value="ascii">ASCII</option>
        <option value="utf-8">UTF-8</option>
      </select>
    </label>
    <LensEntry
      title="padding byte"
      class="w-20 font-mono"
      value={String(form.pad)}
      take={(text) => set({ text: { ...form, pad: Number(text.replace(/^16#/, '0x')) } })}
    />
  </LensSection>
{/if}

<LensSection title="Meaning">
  <LensEntry
    title="role"
    class="w-44"
    value={field.role ? roleText(field.role) : ''}
    placeholder="start, output 3"
    list="roles"
    take={setRole}
  />
  <datalist id="roles">
    {#each fitting as name (name)}<option value={factsOfRole(name).title}></option>{/each}
  </datalist>
  {#if reads !== 'text' && reads !== 'bytes'}
    <LensEntry
      title="labels"
      wraps
      class="w-44"
      value={labelsText(field.labels)}
      placeholder="0 = off, 1 = on"
      take={(text) => set({ labels: labelsOf(text) })}
    />
  {/if}
  {#if number && reads !== 'float'}
    <LensEntry
      title="bit labels"
      wraps
      class="w-44"
      value={bitLabelsText(field.bitLabels)}
      placeholder="3 = overload"
      take={(text) => set({ bitLabels: bitLabelsOf(text) })}
    />
    <LensEntry
      title="bit roles"
      wraps
      class="w-44"
      value={bitRolesText(field.bitRoles)}
      placeholder="0 = start, 3 = fault reset"
      take={setBitRoles}
    />
    <LensEntry
      title="special numbers"
      wraps
      class="w-36"
      value={specialsText(field.specials)}
      placeholder="65535 = no reading"
      label="special numbers: no reading, overrange, underrange, fault"
      take={(text) => set({ specials: specialsOf(text) })}
    />
  {/if}
  {#if reads === 'boolean' || reads === 'unsigned'}
    <label class="lens-row">
      normally closed, 0 acts
      <input
        type="checkbox"
        class="checkbox checkbox-sm"
        checked={field.normallyClosed}
        onchange={(event) => set({ normallyClosed: event.currentTarget.checked })}
      />
    </label>
  {/if}
  <label class="lens-row">
    serves a safety function
    <input
      type="checkbox"
      class="checkbox checkbox-sm"
      checked={field.safety}
      onchange={(event) => set({ safety: event.currentTarget.checked })}
    />
  </label>
  {#if number}
    <label class="lens-row">
      shown as
      <select
        class="inplace cursor-pointer"
        value={field.radix}
        onchange={(event) => set({ radix: event.currentTarget.value as Field['radix'] })}
      >
        {#each radixes as radix (radix)}<option>{radix}</option>{/each}
      </select>
    </label>
  {/if}
  {#if field.sourceName}
    <div class="lens-row">
      name in the file <span class="min-w-0 text-right wrap-anywhere" title={field.sourceName}
        >{field.sourceName}</span
      >
    </div>
  {/if}
  <LensEntry
    title="note"
    wraps
    class="w-52"
    value={field.note}
    placeholder="none"
    take={(note) => set({ note: note.trim() })}
  />
</LensSection>
