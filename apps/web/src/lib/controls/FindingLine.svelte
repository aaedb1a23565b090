<script lang="ts">
  import { readEdit, type Finding } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** What a check says, where it leads, and the cure that a click makes. */
  interface Props {
    finding: Finding;
    onshow?: () => void;
    showTitle?: string;
  }
  let { finding, onshow, showTitle = 'Show' }: Props = $props();
  const desk = useDesk();
</script>

<div class="my-1.5 border-l-[3px] border-base-content pl-3">
  <b>{finding.severity}</b> · {finding.says} <span class="text-faint">{finding.cure}</span>
  {#if finding.fix || onshow}
    <div class="mt-1 flex flex-wrap gap-2">
      {#if finding.fix}
        {@const { title, edit } = finding.fix}
        <button class="btn btn-wrap btn-sm" onclick={() => desk.edit(readEdit(edit))}>{title}</button>
      {/if}
      {#if onshow}<button class="btn btn-wrap btn-sm" onclick={onshow}>{showTitle}</button>{/if}
    </div>
  {/if}
</div>
