<script lang="ts">
  import { page } from '$app/state';
  import { onMount } from 'svelte';

  const retryMs = 1000;
  const answerWithinMs = 5000;
  const away = $derived(page.status === 503 || page.error?.away === true);

  // A part that is away is started again by itself; this page then comes back by itself too.
  onMount(() => {
    const timer = setInterval(() => {
      if (!away) return;
      fetch('/api/health', { signal: AbortSignal.timeout(answerWithinMs) }).then(
        (answer) => {
          if (!answer.ok) return;
          // On a slow computer the next look would break the load off, and begin it anew.
          clearInterval(timer);
          location.reload();
        },
        () => undefined,
      );
    }, retryMs);
    return () => clearInterval(timer);
  });
</script>

<svelte:head><title>{page.status} · Fadenkreuz</title></svelte:head>

<main class="mx-auto max-w-xl p-10">
  <h1 class="mb-3 text-xl font-semibold">
    {away ? 'A part is away just now' : `${page.status}: this page cannot be shown`}
  </h1>
  <p class="mb-5">{page.error?.message}</p>
  {#if away}<p class="mb-5" role="status">This page is loaded again as soon as it answers.</p>{/if}
  <p><a class="underline" href="/cells">To the list of cells</a></p>
</main>
