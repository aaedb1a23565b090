<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import type { EditOf, Group, Image } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import InPlace from '$lib/controls/InPlace.svelte';

  /** The groups of an image: runs of fields that come several times, one in another where wanted. */
  let { image }: { image: Image } = $props();
  const desk = useDesk();

  const set = (entries: EditOf<'image.set'>['set']) =>
    desk.edit({ edit: 'image.set', image: image.id, set: entries });
  const setGroup = (group: Group, values: Partial<Group>) =>
    set({ groups: image.groups.map((g) => (g.id === group.id ? { ...g, ...values } : g)) });
  const addGroup = () =>
    set({
      groups: [
        ...image.groups,
        { id: crypto.randomUUID(), name: 'channel', count: 2, stride: 32, parent: null, first: 1 },
      ],
    });
</script>

<LensSection title="Groups that repeat" open={false} brief={String(image.groups.length || 'none')}>
  {#each image.groups as group (group.id)}
    <div class="border-b border-base-300 py-1">
      <div class="flex items-center justify-between gap-1">
        <InPlace
          class="w-28 font-mono"
          value={group.name}
          label="name of the group"
          take={(name) => setGroup(group, { name: name.trim() })}
        />
        <button
          class="cursor-pointer text-xs underline"
          onclick={() => set({ groups: image.groups.filter((g) => g.id !== group.id) })}>remove</button
        >
      </div>
      <div class="flex flex-wrap items-center gap-1 text-xs text-faint">
        <InPlace
          class="w-12 border-base-300 font-mono"
          value={String(group.count)}
          label="repetitions of {group.name}"
          take={(text) => setGroup(group, { count: Number(text) })}
        /> ×, every <InPlace
          class="w-14 border-base-300 font-mono"
          value={String(group.stride)}
          label="bits from one {group.name} to the next"
          take={(text) => setGroup(group, { stride: Number(text) })}
        /> bits, from <InPlace
          class="w-12 border-base-300 font-mono"
          value={String(group.first)}
          label="number of the first {group.name}"
          take={(text) => setGroup(group, { first: Number(text) })}
        /> in
        <select
          class="inplace cursor-pointer"
          aria-label="group around {group.name}"
          value={group.parent ?? ''}
          onchange={(event) => setGroup(group, { parent: event.currentTarget.value || null })}
        >
          <option value="">the image</option>
          {#each image.groups.filter((g) => g.id !== group.id) as g (g.id)}<option value={g.id}
              >{g.name}</option
            >{/each}
        </select>
      </div>
    </div>
  {/each}
  <button class="btn mt-2 btn-sm" onclick={addGroup}>Add a group</button>
</LensSection>
