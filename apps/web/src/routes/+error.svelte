<script lang="ts">
  import { page } from '$app/state';
</script>

<main class="mx-auto max-w-xl p-10">
  <h1 class="mb-3 text-xl font-semibold">{page.status}: this page cannot be shown</h1>
  <p class="mb-5">{page.error?.message}</p>
  <p><a class="underline" href="/cells">To the list of cells</a></p>
</main>
