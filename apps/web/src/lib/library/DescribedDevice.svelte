<script lang="ts">
  import { freeAddress, nextName } from '@fadenkreuz/core';
  import { choicesOf, deviceOfChoice, type AnyDescriber } from '@fadenkreuz/core/describers';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { untrack } from 'svelte';

  interface Props {
    describer: AnyDescriber;
    ondone: (id: string) => void;
    oncancel: () => void;
  }
  /** A device of the cell from a describer: by which of its connections, under which name, at which address. */
  let { describer, ondone, oncancel }: Props = $props();
  const desk = useDesk();

  const choices = $derived(choicesOf(describer));
  let chosen = $state(untrack(() => choicesOf(describer)[0]?.id ?? 0));
  const kind = untrack(() => {
    const place = { name: 'x', address: freeAddress(desk.cell) };
    return deviceOfChoice(describer, chosen, desk.cell, place, () => crypto.randomUUID())?.kind ?? 'other';
  });
  let name = $state(untrack(() => nextName(desk.cell, kind)));
  let address = $state(untrack(() => freeAddress(desk.cell, kind)));

  function add(event: SubmitEvent) {
    event.preventDefault();
    const place = { name: name.trim(), address: address.trim() };
    const device = deviceOfChoice(describer, chosen, desk.cell, place, () => crypto.randomUUID());
    if (device && desk.edit({ edit: 'device.add', device })) ondone(device.id);
  }
</script>

<form onsubmit={add} class="mt-3 flex flex-col gap-2.5">
  <fieldset>
    <legend class="lens-heading">Connection</legend>
    {#each choices as { id, title, command, feedback } (id)}
      <label class="flex cursor-pointer items-baseline gap-2 border-b border-base-300 py-1">
        <input type="radio" class="radio radio-xs" bind:group={chosen} value={id} />
        <span class="min-w-0">
          {title}
          <span class="block text-xs">
            <span class="text-command"
              >▸ <span class="font-mono">{command.size} B</span>, {command.fields} fields</span
            >
            <span class="text-feedback"
              >◂ <span class="font-mono">{feedback.size} B</span>, {feedback.fields} fields</span
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
    <button class="btn btn-primary btn-sm" type="submit" disabled={choices.length === 0}>Add</button>
    <button class="btn btn-sm" type="button" onclick={oncancel}>Cancel</button>
  </div>
</form>
