<script lang="ts">
  import { firstFree, freeAddress, Problem, type ProblemReport } from '@fadenkreuz/core';
  import { connectionImages, deviceOf, type Described } from '@fadenkreuz/core/describers';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { freeName } from '$lib/desk/newDevice.js';
  import { readDescriber } from '$lib/desk/readDescriber.js';
  import { untrack } from 'svelte';

  interface Props {
    file: File;
    ondone: (id: string) => void;
    oncancel: () => void;
  }
  /** What a description file says, and what is wrong with it, before a device is made of it. */
  let { file, ondone, oncancel }: Props = $props();
  const desk = useDesk();

  let described = $state.raw<Described>();
  let problem = $state.raw<ProblemReport>();
  let chosen = $state(0);
  let name = $state('');
  let address = $state(untrack(() => freeAddress(desk.cell)));

  async function read(from: File) {
    described = problem = undefined;
    try {
      const understood = await readDescriber(from);
      // Another file was chosen meanwhile.
      if (from !== file) return;
      if ('problem' in understood) problem = understood.problem;
      else {
        described = understood;
        const { device, connections } = understood.describer;
        chosen = connections[0]?.number ?? 0;
        name = freeName(desk.cell, `${device.productName || 'part'}_x1`.toLowerCase().slice(0, 40));
      }
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (from !== file) return;
      problem = error.report();
    }
  }
  $effect(() => void read(file));

  const images = $derived(described ? connectionImages(described.describer) : []);
  /** What nothing of ours reads: sections, and how many entries of each. */
  const kept = $derived(
    (described?.describer.kept ?? []).map(({ name, entries }) => `${name} (${entries.length})`),
  );

  function add(event: SubmitEvent) {
    event.preventDefault();
    if (!described) return;
    const place = {
      name: name.trim(),
      address: address.trim(),
      commandStart: firstFree(desk.cell, 'command'),
      feedbackStart: firstFree(desk.cell, 'feedback'),
    };
    const device = deviceOf(described.describer, chosen, place, () => crypto.randomUUID());
    if (device && desk.edit({ edit: 'device.add', device })) ondone(device.id);
  }
</script>

{#if problem}
  <h2 class="text-lg font-semibold break-words">{file.name}</h2>
  <p role="alert" class="mt-1 text-error">{problem.says}</p>
  <p class="text-faint">{problem.cure}</p>
  <button class="btn mt-4 btn-sm" onclick={oncancel}>Leave</button>
{:else if !described}
  <p class="text-faint">{file.name} is being read.</p>
{:else}
  {@const { device, parameters, assemblies } = described.describer}
  <h2 class="text-lg font-semibold break-words">{device.productName || file.name}</h2>
  <p class="text-faint">{[device.vendorName, device.catalog].filter(Boolean).join(' · ')}</p>
  <p class="mt-1 text-faint">Nothing is stored before you add it.</p>

  <h3 class="lens-heading">Understood</h3>
  {#each [['vendor', device.vendor], ['product code', device.productCode], ['revision', `${device.majorRevision}.${device.minorRevision}`], ['parameters', parameters.length], ['assemblies', assemblies.length]] as [title, value] (title)}
    <div class="lens-row"><span>{title}</span><span class="font-mono">{value}</span></div>
  {/each}
  {#if kept.length > 0}
    <div class="lens-row">
      <span>kept unread</span><span class="min-w-0 text-right whitespace-normal">{kept.join(', ')}</span>
    </div>
  {/if}

  <h3 class="lens-heading">Wrong in the file</h3>
  <ul aria-label="wrong in the file" class="max-h-56 overflow-y-auto">
    {#each described.defects as defect, i (i)}
      <li class="border-b border-base-300 py-1 text-[13px]">
        <span class="font-mono text-xs text-faint">line {defect.line}</span>
        {defect.says} <span class="text-faint">{defect.cure}</span>
      </li>
    {:else}
      <li class="text-faint">Nothing.</li>
    {/each}
  </ul>

  <form onsubmit={add} class="mt-3 flex flex-col gap-2.5">
    <fieldset>
      <legend class="lens-heading">Connection</legend>
      {#each images as { connection, command, feedback } (connection.number)}
        <label class="flex cursor-pointer items-baseline gap-2 border-b border-base-300 py-1">
          <input type="radio" class="radio radio-xs" bind:group={chosen} value={connection.number} />
          <span class="min-w-0">
            {connection.name || `Connection${connection.number}`}
            <span class="block text-xs">
              <span class="text-command"
                >▸ <span class="font-mono">{command.size} B</span>, {command.fields.length} fields</span
              >
              <span class="text-feedback"
                >◂ <span class="font-mono">{feedback.size} B</span>, {feedback.fields.length} fields</span
              >
            </span>
          </span>
        </label>
      {:else}
        <p class="text-faint">The file describes no connection: add the device by hand, from its manual.</p>
      {/each}
    </fieldset>
    <label class="flex flex-col"
      >name<input class="input font-mono input-sm" bind:value={name} required maxlength="64" /></label
    >
    <label class="flex flex-col"
      >address<input class="input font-mono input-sm" bind:value={address} required /></label
    >
    <div class="mt-1 flex gap-2">
      <button class="btn btn-primary btn-sm" type="submit" disabled={images.length === 0}>Add</button>
      <button class="btn btn-sm" type="button" onclick={oncancel}>Leave</button>
    </div>
  </form>
{/if}
