<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    proposeRoles,
    rolesOfKind,
    roleText,
    type Device,
    type Image,
    type RoleProposal,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { takeRoles } from './fieldEdits.js';

  /** What fields and bits are probably for, to be taken one by one or all. */
  let { image, device }: { image: Image; device: Device } = $props();
  const desk = useDesk();

  const given = $derived(
    image.fields.reduce((sum, field) => sum + (field.role ? 1 : 0) + field.bitRoles.length, 0),
  );
  const proposals = $derived(proposeRoles(image, rolesOfKind(device.kind).usual));
  const safe = $derived(proposals.filter((p) => !p.ask));
  const nameOf = ({ field, bit }: RoleProposal) => {
    const name = image.fields.find((f) => f.id === field)?.name ?? '';
    return bit === null ? name : `${name} bit ${bit}`;
  };
  const take = (chosen: readonly RoleProposal[]) => void desk.edit(takeRoles(image, chosen));
</script>

<LensSection title="Roles" brief="{given} given, {proposals.length} proposed">
  <div class="lens-row">
    <span>{given} given, {proposals.length} proposed</span>
    {#if safe.length > 0}
      <button class="btn btn-xs" onclick={() => take(safe)}>Take {safe.length}</button>
    {/if}
  </div>
  <ul aria-label="proposed roles" class="max-h-64 overflow-y-auto text-[13px]">
    {#each proposals as proposal (`${proposal.field} ${proposal.bit ?? ''}`)}
      <li class="flex items-start gap-2 border-b border-base-300 py-1">
        <span class="min-w-0 flex-1">
          <span class="font-mono break-words">{nameOf(proposal)}</span> →
          <strong>{roleText(proposal.role)}</strong>
          <span class="block text-xs text-faint">
            {Math.round(proposal.sure * 100)} % sure: {proposal.reason}
            {#if proposal.ask}▲ about a safety function: look in the manual{/if}
          </span>
        </span>
        <button
          class="btn btn-xs"
          aria-label="take {roleText(proposal.role)}"
          onclick={() => take([proposal])}>Take</button
        >
      </li>
    {/each}
  </ul>
</LensSection>
