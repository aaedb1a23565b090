<script lang="ts">
  import InPlace from '$lib/controls/InPlace.svelte';
  import RemoveButton from '$lib/controls/RemoveButton.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { conditionsOf, type BeamChanges, type Device } from '@fadenkreuz/core';

  /** Changes the chain of a device: conditions that are not asked here, and conditions of its own. */
  let { device, action }: { device: Device; action: string } = $props();
  const desk = useDesk();

  const conditions = $derived(conditionsOf(device).find((c) => c.action === action)?.conditions ?? []);
  const own = $derived(device.beam.own.filter((c) => c.action === action));
  const change = (set: Partial<BeamChanges>) =>
    desk.edit({ edit: 'device.set', device: device.id, set: { beam: { ...device.beam, ...set } } });
  const setOwn = (id: string, set: object) =>
    change({ own: device.beam.own.map((c) => (c.id === id ? { ...c, ...set } : c)) });
  const add = () =>
    change({
      own: [
        ...device.beam.own,
        {
          ...{ id: crypto.randomUUID(), action, before: conditions.at(-1)?.id ?? null },
          ...{ title: 'a condition', expression: '1', cure: '' },
        },
      ],
    });
  const turn = (id: string, asked: boolean) =>
    change({
      leftOut: asked ? device.beam.leftOut.filter((l) => l !== id) : [...device.beam.leftOut, id],
    });
</script>

<details class="mt-2">
  <summary class="cursor-pointer text-faint">Change the chain</summary>
  <ul class="mt-1">
    {#each conditions as { id, title } (id)}
      <li>
        <label class="flex items-center gap-2 py-0.5">
          <input
            type="checkbox"
            class="checkbox rounded-sm checkbox-xs"
            checked={!device.beam.leftOut.includes(id)}
            onchange={(event) => turn(id, event.currentTarget.checked)}
          />{title}
        </label>
      </li>
    {/each}
  </ul>
  {#each own as one (one.id)}
    <div class="mt-2 border-l-2 border-base-300 pl-2">
      <div class="flex items-center gap-1">
        <InPlace
          class="min-w-0 grow font-semibold"
          value={one.title}
          label="name of the condition"
          take={(title) => setOwn(one.id, { title })}
        />
        <RemoveButton
          label="remove {one.title}"
          onclick={() => change({ own: device.beam.own.filter((c) => c.id !== one.id) })}
        />
      </div>
      <label class="lens-row"
        >holds while <InPlace
          wraps
          class="w-44 font-mono"
          value={one.expression}
          label="holds while"
          take={(expression) => setOwn(one.id, { expression })}
        /></label
      >
      <label class="lens-row"
        >cure <InPlace
          wraps
          class="w-44"
          value={one.cure}
          label="cure"
          take={(cure) => setOwn(one.id, { cure })}
        /></label
      >
      <label class="lens-row"
        >before <select
          class="inplace w-44"
          aria-label="stands before"
          value={one.before ?? ''}
          onchange={(event) => setOwn(one.id, { before: event.currentTarget.value || null })}
        >
          {#each conditions as { id, title } (id)}<option value={id}>{title}</option>{/each}
          <option value="">the end</option>
        </select></label
      >
    </div>
  {/each}
  <button class="btn mt-2 btn-sm" onclick={add}>Add a condition</button>
  <p class="mt-1 text-xs text-faint">
    An expression of roles and fields of any device, such as <span class="font-mono"
      >wheel_turner_r1.part_present</span
    >; it holds while it is not 0.
  </p>
</details>
