<script lang="ts">
  import { untrack } from 'svelte';

  interface Props {
    /** What is done, such as `Copy`. */
    title: string;
    entries: { name: string; subnet: string; controller?: string };
    /** Does it; why not, where it was refused. */
    take: (entries: Required<Props['entries']>) => Promise<string | undefined>;
    oncancel: () => void;
    /** What else is to be known. */
    note?: string;
  }
  /** Name, subnet and controller of a cell, entered at once. */
  let { title, entries, take, oncancel, note = '' }: Props = $props();

  const given = untrack(() => entries);
  let name = $state(given.name);
  let subnet = $state(given.subnet);
  let controller = $state(given.controller ?? '');
  let refused = $state('');
  let waiting = $state(false);

  async function submit(event: SubmitEvent) {
    event.preventDefault();
    waiting = true;
    refused = (await take({ name: name.trim(), subnet: subnet.trim(), controller: controller.trim() })) ?? '';
    waiting = false;
  }
  const focus = (element: HTMLInputElement) => element.select();
</script>

<svelte:window onkeydown={(event) => event.key === 'Escape' && oncancel()} />

<form
  class="rounded-box border border-base-content bg-base-100 px-4 py-3"
  aria-label={title}
  onsubmit={submit}
>
  <div class="flex flex-wrap items-end gap-3">
    <label class="flex min-w-52 grow flex-col text-faint"
      >Name <input
        class="input text-base-content input-sm"
        bind:value={name}
        required
        maxlength="80"
        autocomplete="off"
        {@attach focus}
      /></label
    >
    <label class="flex w-44 flex-col text-faint"
      >Subnet <input
        class="input w-full! font-mono text-base-content input-sm"
        bind:value={subnet}
        required
        placeholder="192.168.40.0/24"
        autocomplete="off"
      /></label
    >
    {#if entries.controller !== undefined}
      <label class="flex w-40 flex-col text-faint"
        >Controller <input
          class="input w-full! font-mono text-base-content input-sm"
          bind:value={controller}
          required
          autocomplete="off"
        /></label
      >
    {/if}
    <button class="btn btn-primary btn-sm" disabled={waiting}>{title}</button>
    <button type="button" class="btn btn-sm" onclick={oncancel}>Cancel</button>
  </div>
  {#if note}<p class="mt-2 text-faint">{note}</p>{/if}
  {#if refused}<p class="mt-2 text-error" role="alert">▲ {refused}</p>{/if}
</form>
