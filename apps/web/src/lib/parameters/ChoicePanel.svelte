<script lang="ts">
  import { canBeChosen, chosenNow, type Device } from '@fadenkreuz/core';
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** The parameters that the device carries in its cyclic images, place by place. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();

  const textOf = (id: string | null | undefined) => {
    const parameter = device.description.parameters.find((p) => p.id === id);
    return parameter ? `${parameter.code} ${parameter.name}` : 'nothing';
  };
  const titles = { command: '▸ command', feedback: '◂ feedback' } as const;
  function choose(choice: number, place: number, id: string) {
    const slots = device.description.chosen[choice]!;
    const parameters = chosenNow(device, slots).map((now, i) => (i === place ? id || null : now));
    desk.edit({ edit: 'parameters.choose', device: device.id, choice, parameters });
  }
</script>

{#each device.description.chosen as slots, choice (choice)}
  {@const now = chosenNow(device, slots)}
  <p class="mt-1 font-semibold">{titles[slots.use]} image</p>
  <p class="text-xs text-faint">
    {slots.selectors.length} places of {slots.size} bytes from byte {slots.at} on. The device is told by
    {slots.selectors.join(', ')}; write them to it, then the layout fits.
  </p>
  {#each slots.selectors as selector, place (selector)}
    <label class="lens-row">
      byte {slots.at + place * slots.size}
      <LongSelect
        class="max-w-52 text-right"
        text={textOf(now[place])}
        aria-label="{slots.use} place {place + 1}"
        value={now[place] ?? ''}
        onchange={({ currentTarget }) => choose(choice, place, currentTarget.value)}
      >
        <option value="">nothing</option>
        {#each device.description.parameters.filter((p) => canBeChosen(slots, p)) as p (p.id)}
          <option value={p.id}>{p.code} {p.name}</option>
        {/each}
      </LongSelect>
    </label>
  {/each}
{/each}
