<script lang="ts" module>
  import { perCell } from '$lib/desk/perCell.js';
  import { parameterCode, signalList, structuredText } from '@fadenkreuz/core';

  const codeOf = perCell(structuredText);
  const signalsOf = perCell(signalList);
  const parametersOf = perCell(parameterCode);
</script>

<script lang="ts">
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { papers } from '@fadenkreuz/core';
  import Download from '@lucide/svelte/icons/download';
  import Papa from 'papaparse';

  const desk = useDesk();
  let shown = $state<'code' | 'parameters' | 'signals'>('code');
  const base = $derived(`/api/cells/${desk.cell.id}/handover`);
  const code = $derived(codeOf(desk.cell));
  const messages = $derived(parametersOf(desk.cell));
  const table = $derived(Papa.parse<string[]>(signalsOf(desk.cell), { skipEmptyLines: true }).data);
  const errors = $derived(desk.findings.filter((f) => f.severity === 'error').length);

  /** What it has nothing of does not leave. */
  const files = $derived(papers.filter(({ has }) => has?.(desk.cell) ?? true));
</script>

<View lensTitle="What leaves">
  {#snippet main()}
    <div class="mb-3 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Hand-over</h1>
      <div class="segment ml-auto" role="group" aria-label="what is shown">
        <button aria-pressed={shown === 'code'} onclick={() => (shown = 'code')}>structured text</button>
        <button aria-pressed={shown === 'parameters'} onclick={() => (shown = 'parameters')}
          >parameter code</button
        >
        <button aria-pressed={shown === 'signals'} onclick={() => (shown = 'signals')}>signal list</button>
      </div>
    </div>
    {#if shown === 'parameters' && !messages}
      <p class="text-faint">No parameter has a planned value yet.</p>
    {:else if shown !== 'signals'}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <pre
        class="overflow-x-auto rounded-box border border-base-300 bg-base-100 p-4 font-mono text-[12.5px] leading-relaxed"
        tabindex="0">{shown === 'code' ? code : messages}</pre>
    {:else}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div
        class="overflow-x-auto rounded-box border border-base-300 bg-base-100"
        tabindex="0"
        role="region"
        aria-label="signal list"
      >
        <table class="font-mono text-xs whitespace-nowrap">
          <thead>
            <tr class="border-b border-base-content/60 text-left">
              {#each table[0] ?? [] as title (title)}<th
                  class="px-2.5 py-1.5 font-sans font-medium text-faint">{title}</th
                >{/each}
            </tr>
          </thead>
          <tbody>
            {#each table.slice(1) as row, i (i)}
              <tr class="border-b border-base-300">
                {#each row as cell, k (k)}<td class="px-2.5 py-1">{cell}</td>{/each}
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    {/if}
  {/snippet}
  {#snippet lens()}
    <h2 class="text-lg font-semibold">What leaves</h2>
    {#if errors}
      <p class="mt-3 border-l-[3px] border-base-content pl-3">
        <b>{errors} {errors === 1 ? 'error' : 'errors'} in the findings.</b>
        <span class="text-faint">Code from a layout with errors will not do what was meant.</span>
      </p>
    {/if}
    {#each files as { id, file, says } (id)}
      <section class="mt-4 border-t border-base-300 pt-3">
        <h3 class="font-mono font-semibold break-all">{file(desk.cell)}</h3>
        <p class="mt-0.5 mb-2 text-faint">{says}</p>
        <a class="btn btn-sm" href="{base}/{id}" download><Download size={14} aria-hidden="true" />Download</a
        >
      </section>
    {/each}
  {/snippet}
</View>
