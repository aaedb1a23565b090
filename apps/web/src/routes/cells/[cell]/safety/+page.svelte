<script lang="ts">
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import View from '$lib/frame/View.svelte';
  import ApprovalLine from '$lib/safety/ApprovalLine.svelte';
  import BlockLens from '$lib/safety/BlockLens.svelte';
  import InputsByHand from '$lib/safety/InputsByHand.svelte';
  import NetworkDrawing from '$lib/safety/NetworkDrawing.svelte';
  import { editLogic, newBlock } from '$lib/safety/safetyEdits.js';
  import StatusBits from '$lib/safety/StatusBits.svelte';
  import { blockKinds, emptyLogic, SafetyRun, type BlockType } from '@fadenkreuz/core';
  import { untrack } from 'svelte';

  const desk = useDesk();
  const controllers = $derived(
    desk.cell.devices.filter((d) => d.kind === 'safety controller' || d.safety !== null),
  );
  const device = $derived(controllers.find((d) => d.id === desk.chosen?.id) ?? controllers[0]);
  const logic = $derived(device?.safety ?? emptyLogic);

  let chosen = $state<string | undefined>();
  const block = $derived(logic.blocks.find(({ id }) => id === chosen));
  let adds = $state<BlockType>('and');

  /** The network at work on this page: the same blocks as in the simulated device. */
  let run = $state.raw<SafetyRun | undefined>();
  let steps = $state(0);
  const stepMs = 20;
  $effect(() => {
    const next = logic;
    untrack(() => (run = run && run.logic.blocks.length > 0 ? run.following(next) : new SafetyRun(next)));
  });
  $effect(() => {
    const timer = setInterval(() => {
      run?.step(stepMs * 5);
      steps += 1;
    }, stepMs * 5);
    return () => clearInterval(timer);
  });
  $effect(() => {
    desk.live.show('safety', device?.links.map(({ id }) => id) ?? []);
    return () => desk.live.show('safety', []);
  });
  const live = $derived(device !== undefined && desk.linkStatus(device.id)?.side != null);

  function add() {
    if (!device) return;
    const fresh = newBlock(adds, logic);
    if (editLogic(desk, device, { blocks: [...logic.blocks, fresh] })) chosen = fresh.id;
  }
</script>

<View lensTitle="Safety">
  {#snippet main()}
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h1 class="text-lg font-semibold">Safety</h1>
      {#if device}
        <LongSelect
          class="max-w-60 font-mono"
          text={device.name}
          aria-label="safety controller"
          value={device.id}
          onchange={(event) => desk.choose(event.currentTarget.value)}
        >
          {#each controllers as { id, name } (id)}<option value={id}>{name}</option>{/each}
        </LongSelect>
      {/if}
      <strong class="text-error"
        >Status only over a standard protocol: nothing here is a safety function.</strong
      >
    </div>
    {#if !device}
      <p class="text-faint">
        No safety controller in this cell: choose that kind for a device on the Line-up.
      </p>
    {:else}
      <ApprovalLine {device} {logic} />
      <div class="mt-3 mb-2 flex items-center gap-2">
        <h2 class="font-semibold">Network</h2>
        <span class="text-sm text-faint">1 lets the machine run</span>
        <select class="select ml-auto w-48 select-sm" aria-label="new block" bind:value={adds}>
          {#each Object.entries(blockKinds) as [is, { title }] (is)}<option value={is}>{title}</option>{/each}
        </select>
        <button class="btn btn-sm" onclick={add}>Add block</button>
      </div>
      {#if logic.blocks.length === 0}
        <p class="text-faint">
          Nothing is said of it yet: add its inputs, its logic and its outputs, then say where its status bits
          stand.
        </p>
      {:else}
        <NetworkDrawing {device} {logic} {run} {steps} {chosen} onchoose={(id) => (chosen = id)} />
      {/if}
      <h2 class="mt-4 mb-1 font-semibold">Status bits</h2>
      <StatusBits {device} {logic} {run} {steps} />
    {/if}
  {/snippet}
  {#snippet lens()}
    {#if device && block}
      <BlockLens {device} {logic} {block} ongone={() => (chosen = undefined)} />
      <button class="btn mt-2 btn-ghost btn-xs" onclick={() => (chosen = undefined)}>Inputs by hand</button>
    {:else if device && run}
      <h2 class="mb-1 text-base font-semibold">Inputs by hand</h2>
      <p class="mb-2 text-xs text-faint">
        {live
          ? 'At the simulated device on the bench, and here.'
          : 'Here at the desk; on the bench where it runs.'}
      </p>
      <InputsByHand {device} {logic} {run} {steps} {live} />
    {:else}
      <p class="text-faint">What is chosen is explained and edited here.</p>
    {/if}
  {/snippet}
</View>
