<script lang="ts">
  import { readManualLine } from '@fadenkreuz/core';
  import { withLine, type Assemblies } from './fromManual.js';

  /** The assemblies of a device, as its manual's table or one line of it says. */
  let { entry }: { entry: Assemblies } = $props();

  let line = $state('');
  const understood = $derived(line.trim() === '' ? undefined : readManualLine(line));
  function take(text: string) {
    line = text;
    const read = readManualLine(text);
    if (read) Object.assign(entry, withLine(entry, read));
  }
  function swap() {
    const { commandInstance, commandCount } = entry;
    Object.assign(entry, {
      ...{ commandInstance: entry.feedbackInstance, commandCount: entry.feedbackCount },
      ...{ feedbackInstance: commandInstance, feedbackCount: commandCount },
    });
  }
  const bytes = (count: number) => (Number.isFinite(count) ? count * entry.unitBytes : 0);
</script>

{#snippet count(title: string, key: keyof Assemblies)}
  <label class="flex flex-col"
    >{title}<input class="input font-mono input-sm" type="number" bind:value={entry[key]} required /></label
  >
{/snippet}

<label class="flex flex-col"
  >the manual’s line<textarea
    class="textarea font-mono textarea-sm"
    rows="2"
    aria-label="the manual’s line"
    placeholder="input 131 size 7, output 141 size 6, configuration 151 size 0, 32-bit"
    spellcheck="false"
    value={line}
    oninput={(event) => take(event.currentTarget.value)}></textarea></label
>
{#if understood}
  <ul class="flex flex-col gap-1 text-sm" aria-label="doubtful in the line">
    {#each understood.doubts as doubt (doubt.code + doubt.says)}
      <li class="border-l-[3px] border-base-content pl-2">
        {doubt.says} <span class="text-faint">{doubt.cure}</span>
        {#if doubt.code === 'manualLine.whoseInput'}
          <button class="btn btn-xs" type="button" onclick={swap}>Swap</button>
        {/if}
      </li>
    {:else}
      <li class="text-faint">Nothing in it is doubtful.</li>
    {/each}
  </ul>
{:else if line.trim() !== ''}
  <p class="text-sm text-faint">It names no instance yet.</p>
{/if}
<label class="flex flex-col">
  sizes are counted in
  <select class="select select-sm" bind:value={entry.unitBytes}>
    <option value={1}>bytes</option>
    <option value={2}>16-bit elements</option>
    <option value={4}>32-bit elements</option>
  </select>
</label>
{#snippet image(side: 'command' | 'feedback', arrow: string, tone: string)}
  {@const size = side === 'command' ? 'commandCount' : 'feedbackCount'}
  {@const instance = side === 'command' ? 'commandInstance' : 'feedbackInstance'}
  <fieldset class="grid grid-cols-[1fr_1fr] gap-2">
    <legend class={['font-medium', tone]}>{arrow} {side} image</legend>
    {@render count('instance', instance)}
    {@render count('size', size)}
    <p class="col-span-2 text-xs text-faint">
      = <span class="font-mono">{bytes(entry[size])}</span> bytes
    </p>
  </fieldset>
{/snippet}
{@render image('command', '▸', 'text-command')}
{@render image('feedback', '◂', 'text-feedback')}
{@render count('configuration', 'configurationInstance')}
