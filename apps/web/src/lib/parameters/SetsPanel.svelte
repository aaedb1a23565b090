<script lang="ts">
  import { proposedSets, roleText, withProposedRoles, type Device } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { arranged, planSet } from './counting.js';

  /** Groups of values that devices of its kind need, with the reason for each. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();
  const sets = $derived(proposedSets(device));
  /** Parameters whose name says what they are for. */
  const named = $derived(withProposedRoles(device.description.parameters));
  /** Other devices for which a set has values as well. */
  const alike = (id: string) =>
    desk.cell.devices.flatMap((d) => {
      const proposed = d.id === device.id ? undefined : proposedSets(d).find((s) => s.set.id === id);
      return proposed && proposed.values.length > 0 && !proposed.planned ? [{ device: d, proposed }] : [];
    });
  const textOf = ({ labels, unit }: Device['description']['parameters'][number], to: string) =>
    labels.find((l) => String(l.value) === to)?.text ?? (unit ? `${to} ${unit}` : to);
</script>

{#if named.length > 0}
  <details class="border-b border-base-300 py-2 text-xs">
    <summary class="cursor-pointer"
      >{named.length === 1
        ? 'One name says what it is for'
        : `${named.length} names say what they are for`}</summary
    >
    <ul class="my-1">
      {#each named as { id, name, role } (id)}<li>{name}: {role ? roleText(role) : ''}</li>{/each}
    </ul>
    <button
      class="btn btn-sm"
      onclick={() => {
        const edit = arranged(device, `give ${named.length} parameters their roles`, named);
        if (edit) desk.edit(edit);
      }}>Give them these roles</button
    >
  </details>
{/if}
{#each sets as { set, values, unclear, planned } (set.id)}
  {@const others = alike(set.id)}
  <div class="border-b border-base-300 py-2 last:border-0">
    <p class="font-semibold">{set.title}</p>
    <p class="text-xs text-faint">{set.reason}</p>
    <ul class="mt-1 text-xs">
      {#each values as { parameter, to } (parameter.id)}
        <li><span class="font-mono">{parameter.code}</span> {parameter.name} = {textOf(parameter, to)}</li>
      {/each}
      {#each unclear as parameter (parameter.id)}
        <li class="text-faint">{parameter.name}: none of its labels says it; choose its value by hand.</li>
      {/each}
    </ul>
    {#if planned && values.length > 0}<p class="text-xs text-success">✓ planned</p>
    {:else if values.length > 0}
      <button
        class="btn mt-1 btn-sm"
        onclick={() => {
          const edit = planSet(device, set.title, values);
          if (edit) desk.edit(edit);
        }}>{values.length === 1 ? 'Plan this value' : `Plan these ${values.length}`}</button
      >
    {/if}
    {#if others.length > 0}
      <button
        class="btn mt-1 btn-sm"
        onclick={() => {
          for (const { device: other, proposed } of others) {
            const edit = planSet(other, set.title, proposed.values);
            if (edit) desk.edit(edit);
          }
        }}>Plan them for {others.length} more {others.length === 1 ? 'device' : 'devices'}</button
      >
    {/if}
  </div>
{:else}
  <p class="text-xs text-faint">
    No set fits: give parameters a role, such as “where a start comes from” or “reaction to loss of the
    network”.
  </p>
{/each}
