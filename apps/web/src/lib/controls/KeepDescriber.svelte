<script lang="ts">
  import { send } from '$lib/desk/send.js';

  /** Takes a description file into the library, which all cells share. */
  let { file }: { file: () => File } = $props();

  let stage = $state<'open' | 'busy' | 'kept'>('open');
  let refused = $state('');
  async function keep() {
    stage = 'busy';
    const one = file();
    const answer = await send('POST', `/api/library?name=${encodeURIComponent(one.name)}`, undefined, one);
    stage = answer.ok ? 'kept' : 'open';
    refused = answer.ok ? '' : answer.problem.says;
  }
</script>

{#if stage === 'kept'}
  <p class="mt-3 text-success" role="status">✓ It is in the library.</p>
{:else}
  <button class="btn mt-3 btn-sm" disabled={stage === 'busy'} onclick={keep}>Keep in the library</button>
  {#if refused}<p class="mt-1 text-error" role="alert">{refused}</p>{/if}
{/if}
