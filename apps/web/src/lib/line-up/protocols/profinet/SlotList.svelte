<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import type { ProfinetLink } from '@fadenkreuz/core';

  /** What is plugged into a PROFINET device, with the controller's bytes of each submodule. */
  let { link }: { link: ProfinetLink } = $props();

  const rows = $derived.by(() => {
    let [input, output] = [link.feedback.start, link.command.start];
    return link.slots.flatMap((slot) => {
      const row = { ...slot, input, output };
      input += slot.inputs;
      output += slot.outputs;
      return slot.inputs + slot.outputs > 0 ? [row] : [];
    });
  });
  const range = (start: number, bytes: number) => (bytes > 0 ? `${start}–${start + bytes - 1}` : '');
</script>

<LensSection title="Slots, controller bytes">
  <table class="w-full text-[13px]">
    <thead>
      <tr class="text-left text-xs text-faint">
        <th class="font-medium">slot</th>
        <th class="font-medium">submodule</th>
        <th class="font-medium">◂</th>
        <th class="font-medium">▸</th>
      </tr>
    </thead>
    <tbody>
      {#each rows as { slot, subslot, title, input, inputs, output, outputs } (`${slot}.${subslot}`)}
        <tr class="border-b border-base-300">
          <td class="py-1 font-mono">{slot}.{subslot}</td>
          <td>{title}</td>
          <td class="font-mono text-feedback">{range(input, inputs)}</td>
          <td class="font-mono text-command">{range(output, outputs)}</td>
        </tr>
      {:else}
        <tr
          ><td colspan="4" class="py-1 text-faint">Nothing is plugged: choose its GSDML in the library.</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
  <p class="mt-1 text-xs text-faint">Modules are plugged and moved with the device’s GSDML in the library.</p>
</LensSection>
