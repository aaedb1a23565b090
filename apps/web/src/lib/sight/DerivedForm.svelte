<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    derivedReader,
    identifierOf,
    lightCurtainSpan,
    type Derived,
    type FeedbackImage,
    type EditOf,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import InPlace from '$lib/controls/InPlace.svelte';

  /** The derived values of a feedback image, each with its expression and, while bytes arrive, its value. */
  let { image, bytes }: { image: FeedbackImage; bytes: Uint8Array | undefined } = $props();
  const desk = useDesk();

  const set = (entries: EditOf<'image.set'>['set']) =>
    desk.edit({ edit: 'image.set', image: image.id, set: entries });
  const values = $derived(image.derived);
  const setDerived = (value: Derived, entries: Partial<Derived>) =>
    set({ derived: values.map((d) => (d.id === value.id ? { ...d, ...entries } : d)) });
  const addDerived = (added: Derived[]) => set({ derived: [...values, ...added] });
  const derive = $derived(derivedReader(image));
  const readings = $derived(new Map(derive(bytes).map((r) => [r.derived.id, r.text])));
  /** Runs of bits, as the beams of a light curtain come. */
  const beamFields = $derived(
    image.fields.filter(
      (f) => /^(BITS|BYTE|WORD|DWORD|LWORD)$/.test(f.type) && f.bits >= 4 && !f.array && !f.group,
    ),
  );
  let beamField = $state('');
  const beams = $derived(beamFields.find((f) => f.id === beamField) ?? beamFields[0]);
  let pitch = $state('20');
</script>

<LensSection title="Derived values" open={false} brief={String(image.derived.length || 'none')}>
  {#each values as value (value.id)}
    <div class="border-b border-base-300 py-1">
      <div class="flex items-center justify-between gap-1">
        <InPlace
          class="w-44 font-mono"
          value={value.name}
          label="name of the derived value"
          take={(name) => setDerived(value, { name: name.trim() })}
        />
        <span class="font-mono font-semibold">{readings.get(value.id) ?? ''}</span>
      </div>
      <InPlace
        class="w-full border-base-300 font-mono text-xs"
        value={value.expression}
        label="expression of {value.name}"
        take={(expression) => setDerived(value, { expression: expression.trim() })}
      />
      <div class="flex items-center gap-1 text-xs text-faint">
        ± <InPlace
          class="w-28 border-base-300 font-mono"
          value={value.uncertainty}
          placeholder="exact"
          label="uncertainty of {value.name}"
          take={(uncertainty) => setDerived(value, { uncertainty: uncertainty.trim() })}
        />
        <InPlace
          class="w-14 border-base-300 font-mono"
          value={value.unit}
          placeholder="unit"
          label="unit of {value.name}"
          take={(unit) => setDerived(value, { unit: unit.trim() })}
        />
        <button
          class="ml-auto cursor-pointer underline"
          onclick={() => set({ derived: values.filter((d) => d.id !== value.id) })}>remove</button
        >
      </div>
      {#if value.note}<p class="text-xs text-faint">{value.note}</p>{/if}
    </div>
  {/each}
  <div class="mt-2 flex flex-wrap items-center gap-2">
    <button
      class="btn btn-sm"
      onclick={() =>
        addDerived([
          {
            id: crypto.randomUUID(),
            name: `derived_${values.length + 1}`,
            expression: '0',
            uncertainty: '',
            unit: '',
            note: '',
          },
        ])}>Add a value</button
    >
  </div>
  {#if beams}
    <div class="mt-2 flex flex-wrap items-center gap-1.5 text-xs">
      object span from
      <select
        class="inplace cursor-pointer border-base-300 font-mono"
        aria-label="beam bits"
        value={beams.id}
        onchange={(event) => (beamField = event.currentTarget.value)}
      >
        {#each beamFields as field (field.id)}<option value={field.id}>{field.name}</option>{/each}
      </select>
      pitch
      <input class="inplace w-10 border-base-300 font-mono" aria-label="beam pitch, mm" bind:value={pitch} />
      mm
      <button
        class="btn btn-sm"
        onclick={() =>
          addDerived(lightCurtainSpan(identifierOf(beams.name), pitch, 'mm', () => crypto.randomUUID()))}
        >Add</button
      >
    </div>
  {/if}
</LensSection>
