<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { approvalStands, contentHash, type Device, type SafetyLogic } from '@fadenkreuz/core';
  import { editLogic } from './safetyEdits.js';

  /** Who approved the network, when and what; or the way to do it. */
  let { device, logic }: { device: Device; logic: SafetyLogic } = $props();
  const desk = useDesk();

  const stands = $derived(approvalStands(device));
  const hash = $derived(contentHash(device));
  let by = $state('');

  function approve() {
    if (by.trim() === '') {
      desk.note = {
        says: 'An approval needs a name.',
        cure: 'Enter who compared the network with the controller.',
      };
      return;
    }
    const at = `${new Date().toISOString().slice(0, 19)}Z`;
    if (editLogic(desk, device, { approval: { by: by.trim(), at, hash } })) by = '';
  }
</script>

<section class="rounded-box border border-base-300 px-3 py-2" aria-label="approval">
  {#if stands && logic.approval}
    <p>
      <strong class="text-success">✓ Approved</strong> by {logic.approval.by} on
      <span class="font-mono">{logic.approval.at.replace('T', ' ').replace('Z', ' UTC')}</span>
    </p>
  {:else}
    <p class="text-error">
      ▲ {logic.approval ? `Withdrawn: what ${logic.approval.by} approved has changed.` : 'Not approved.'}
    </p>
    <p class="mt-1 flex flex-wrap items-center gap-2 text-sm">
      Compared with the safety controller’s own logic by
      <input class="input w-48 input-sm" aria-label="approved by" bind:value={by} maxlength="60" />
      <button class="btn btn-sm" onclick={approve}>Approve</button>
    </p>
  {/if}
  <p class="mt-1 font-mono text-xs wrap-anywhere text-faint">SHA-256 {hash}</p>
</section>
