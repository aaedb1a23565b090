<script lang="ts">
  import { goto, invalidateAll } from '$app/navigation';
  import FileUp from '@lucide/svelte/icons/file-up';

  let { data } = $props();
  let note = $state('');
  let waiting = $state(false);

  async function take(event: Event & { currentTarget: HTMLInputElement }) {
    const [file] = event.currentTarget.files ?? [];
    event.currentTarget.value = '';
    if (!file) return;
    waiting = true;
    note = '';
    try {
      const answer = await fetch('/api/cells', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: file,
      });
      const result = (await answer.json()) as { id: string; says?: string; cure?: string };
      if (answer.ok) await goto(`/cells/${result.id}/line-up`);
      else
        note = `Nothing was stored. ${result.says ?? `The server answered ${answer.status}.`} ${result.cure ?? ''}`;
    } catch {
      note = 'Nothing was stored: the web server does not answer. Try again in a moment.';
    }
    waiting = false;
    await invalidateAll();
  }
</script>

<svelte:head><title>Cells · Fadenkreuz</title></svelte:head>

<main class="mx-auto h-screen max-w-3xl overflow-y-auto p-10">
  <h1 class="mb-4 text-xl font-semibold">Cells</h1>
  <ul class="border-t border-base-content/60">
    {#each data.cells as cell (cell.id)}
      <li class="border-b border-base-300">
        <a class="flex items-baseline gap-4 px-2 py-2.5 hover:bg-base-100" href="/cells/{cell.id}/line-up">
          <span class="font-semibold">{cell.name}</span>
          <span class="ml-auto font-mono">{cell.devices} devices</span>
        </a>
      </li>
    {/each}
  </ul>
  <label class="btn mt-5 btn-sm">
    <FileUp size={15} aria-hidden="true" />{waiting ? 'Reading …' : 'Take in a cell file'}
    <input type="file" class="sr-only" accept=".json,application/json" onchange={take} />
  </label>
  <p class="mt-4" role="status">{note}</p>
</main>
