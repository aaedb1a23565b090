<script lang="ts">
  import { Problem, type ProblemReport } from '@fadenkreuz/core';
  import {
    countsOf,
    factsOf,
    summaryOf,
    type AnyDescriber,
    type Described,
    type Fact,
  } from '@fadenkreuz/core/describers';
  import { readDescriber } from './readDescriber.js';
  import type { Snippet } from 'svelte';
  import DescribedDevice from './DescribedDevice.svelte';
  import DescribedPort from './DescribedPort.svelte';
  import DescribedSlots from './DescribedSlots.svelte';

  interface Props {
    file: File;
    ondone: (id: string) => void;
    oncancel: () => void;
    /** What else can be done with the file, such as keeping it. */
    actions?: Snippet<[AnyDescriber]>;
  }
  /** What a description file says, and what is wrong with it, before anything is made of it. */
  let { file, ondone, oncancel, actions }: Props = $props();

  let described = $state.raw<Described<AnyDescriber>>();
  let problem = $state.raw<ProblemReport>();

  /** The language that its texts are read in; empty: the first that the file has. */
  let language = $state('');
  const languages = $derived(
    described && 'languages' in described.describer ? described.describer.languages : [],
  );

  async function read(from: File, inLanguage = '') {
    problem = undefined;
    // Another language of the same file: what was read stays in sight until it is there.
    if (!inLanguage) described = undefined;
    language = inLanguage;
    try {
      const understood = await readDescriber(from, inLanguage || undefined);
      // Another file was chosen meanwhile.
      if (from !== file || inLanguage !== language) return;
      if ('problem' in understood) problem = understood.problem;
      else described = understood;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (from !== file) return;
      problem = error.report();
    }
  }
  $effect(() => void read(file));

  /** What nothing of ours reads: sections, and how many entries of each. */
  const keptSections = $derived(described?.describer.kept ?? []);
  const kept = $derived(keptSections.map(({ name, entries }) => `${name} (${entries.length})`));
  const unread = $derived(keptSections.reduce((sum, { entries }) => sum + entries.length, 0));
  function understood(describer: AnyDescriber): [string, string | number][] {
    const summary = summaryOf(describer);
    const base: [string, string | number][] = [
      ['protocol', summary.protocol],
      ['vendor', summary.vendor],
      ['product', summary.product],
      ['revision', summary.revision],
    ];
    return [
      ...base,
      ...countsOf(describer).map(([count, what]): [string, number] => [what, count]),
      ...(describer.source === 'table' ? [['from', describer.origin || 'a table'] as [string, string]] : []),
    ];
  }
  /** Everything that it says, by section. */
  const sections = $derived.by(() => {
    const bySection: Record<string, Pick<Fact, 'name' | 'fileName' | 'text'>[]> = {};
    for (const { section, name, fileName, text, means } of described ? factsOf(described.describer) : [])
      (bySection[section] ??= []).push({
        name,
        ...(fileName ? { fileName } : {}),
        text: means ? `${text}, ${means}` : text,
      });
    return Object.entries(bySection).map(([section, facts]) => ({ section, facts: facts.slice(0, 400) }));
  });
</script>

{#if problem}
  <h2 class="text-lg font-semibold break-words">{file.name}</h2>
  <p role="alert" class="mt-1 text-error">{problem.says}</p>
  <p class="text-faint">{problem.cure}</p>
  <button class="btn mt-4 btn-sm" onclick={oncancel}>Cancel</button>
{:else if !described}
  <p class="text-faint">{file.name} is being read.</p>
{:else}
  {@const { describer, defects } = described}
  {@const { title, maker, orderNumbers } = summaryOf(describer)}
  <h2 class="text-lg font-semibold break-words">{title || file.name}</h2>
  <p class="text-faint">{[maker, ...orderNumbers.slice(0, 3)].filter(Boolean).join(' · ')}</p>
  <p class="mt-1 text-faint">Nothing is stored before you add or keep it.</p>

  <ul aria-label="how the file was read" class="mt-2 flex flex-wrap gap-x-4 text-[13px] font-semibold">
    <li><span aria-hidden="true">✓</span> understood</li>
    {#if kept.length > 0}<li class="text-faint">
        <span aria-hidden="true">◌</span>
        {unread} not understood
      </li>{/if}
    <li class={defects.length > 0 ? 'text-error' : 'text-faint'}>
      {#if defects.length > 0}<span aria-hidden="true">▲</span> {defects.length} wrong{:else}nothing wrong{/if}
    </li>
  </ul>

  <h3 class="lens-heading">✓ Understood</h3>
  <dl class="grid grid-cols-2 gap-x-4 text-[13px]">
    {#each understood(describer) as [title, value] (title)}
      <div
        class={[
          'flex justify-between gap-2 border-b border-base-300 py-1',
          title.length + String(value).length > 16 && 'col-span-2',
        ]}
      >
        <dt class="text-faint">{title}</dt>
        <dd class="min-w-0 font-mono wrap-anywhere" title={String(value)}>{value}</dd>
      </div>
    {/each}
  </dl>
  {#if languages.length > 1}
    <label class="lens-row">
      language
      <select
        class="inplace cursor-pointer"
        value={language || languages[0]}
        onchange={({ currentTarget }) => void read(file, currentTarget.value)}
      >
        {#each languages as one (one)}<option value={one}>{one}</option>{/each}
      </select>
    </label>
  {/if}
  <details class="mt-1">
    <summary class="cursor-pointer text-faint">Everything it says</summary>
    {#each sections as { section, facts } (section)}
      <h4 class="mt-2 text-xs font-semibold text-faint">{section}</h4>
      <dl class="text-[13px]">
        {#each facts as { name, fileName, text }, i (i)}
          <dt class="break-words">
            <span class="font-mono">{name}</span>
            {#if fileName}<span class="text-xs text-faint">in the file: {fileName}</span>{/if}
          </dt>
          <dd class="border-b border-base-300 pb-1 pl-3 break-words text-faint">{text}</dd>
        {/each}
      </dl>
    {/each}
  </details>

  {#if kept.length > 0}
    <h3 class="lens-heading">◌ Not understood, kept as it is written</h3>
    <p class="text-[13px] text-faint">{kept.join(', ')}</p>
  {/if}

  <h3 class="lens-heading">▲ Wrong in the file{defects.length > 0 ? `: ${defects.length}` : ''}</h3>
  <ul aria-label="wrong in the file" class="max-h-72 overflow-y-auto">
    {#each defects as defect, i (i)}
      <li class="mb-1 border-l-2 border-error py-0.5 pl-2 text-[13px]">
        <span class="font-mono font-semibold">line {defect.line}</span>
        {defect.says} <span class="text-faint">{defect.cure}</span>
      </li>
    {:else}
      <li class="text-faint">Nothing.</li>
    {/each}
  </ul>

  {#if describer.source === 'iodd'}
    <DescribedPort iodd={describer} {ondone} {oncancel} />
  {:else if describer.source === 'gsdml'}
    <DescribedSlots gsdml={describer} {ondone} {oncancel} />
  {:else}
    <DescribedDevice {describer} {ondone} {oncancel} />
  {/if}
  {@render actions?.(describer)}
{/if}
