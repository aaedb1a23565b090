<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import Panel from './Panel.svelte';

  let { onclose }: { onclose: () => void } = $props();
  /** What the person was told since the page was opened, the newest first. */
  const desk = useDesk();
  const time = new Intl.DateTimeFormat(undefined, { timeStyle: 'medium' });
</script>

<Panel title="Messages" {onclose} class="w-[34rem]">
  {#each desk.messages.all.toReversed() as { id, at, note, answered } (id)}
    <div class="flex items-start gap-3 border-b border-base-300 py-1.5 last:border-0">
      <span class="shrink-0 font-mono text-faint">{time.format(at)}</span>
      <p class={['min-w-0 grow', answered && 'text-faint']}>{note.says} {note.cure}</p>
      {#if note.action && !answered}
        <button class="btn shrink-0 btn-sm" onclick={note.action.go}>{note.action.title}</button>
      {/if}
    </div>
  {:else}
    <p class="text-faint">None since this page was opened.</p>
  {/each}
</Panel>
