<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import ArmPanel from './ArmPanel.svelte';
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import { targetOf } from './find.js';
  import { follow } from './follow.js';
  import MessageList from './MessageList.svelte';
  import Panel from './Panel.svelte';

  const desk = useDesk();
  let showFindings = $state(false);
  let showArm = $state(false);
  let showMessages = $state(false);

  /** Real devices get something as soon as it is armed: that is said first. */
  function arm() {
    if (desk.bench?.links.some((l) => l.sends)) showArm = true;
    else void desk.arm(armFor);
  }

  const standing = $derived(desk.bench?.links.filter((l) => l.state === 'open').length ?? 0);
  const troubled = $derived(
    desk.bench?.links.find((l) => l.reason && l.state !== 'no-stand-in' && l.state !== 'open'),
  );
  const seconds = $derived(Math.ceil((desk.bench?.armedForMs ?? 0) / 1000));
  const armTimes = [10, 120, 600];
  let armFor = $state(120);

  const benchText = $derived.by(() => {
    if (!desk.serverThere)
      return {
        mark: '✕',
        text: 'The web server does not answer; it is tried again by itself',
        tone: 'text-error',
      };
    if (!desk.databaseThere)
      return { mark: '✕', text: 'The database is away; it is started again by itself', tone: 'text-error' };
    if (desk.bench === null)
      return {
        mark: '✕',
        text: 'The agent is away; it is started again by itself, the design is untouched',
        tone: 'text-error',
      };
    if (desk.bench === undefined) return { mark: '○', text: 'Bench …', tone: '' };
    if (!desk.bench.bench) return { mark: '○', text: 'Bench stopped', tone: '' };
    if (!desk.running) return { mark: '●', text: 'Bench runs another cell', tone: '' };
    return { mark: '●', text: 'Bench runs', tone: 'text-success' };
  });
</script>

<footer
  class="flex min-w-0 items-center gap-5 border-t border-base-300 bg-base-100 px-3.5 whitespace-nowrap print:hidden"
>
  <span class={['font-medium', benchText.tone]} data-testid="bench-state"
    >{benchText.mark} {benchText.text}</span
  >
  {#if desk.unsaved > 0}
    <span class="font-medium" role="status"
      >◌ {desk.unsaved}
      {desk.unsaved === 1 ? 'edit' : 'edits'} not stored yet{#if desk.waiting}: {desk.waiting.says}{/if}</span
    >
  {/if}
  {#if desk.running}
    <span class="font-mono">{standing} of {desk.cell.devices.length} open</span>
    {#if troubled?.reason}<span class="min-w-0 flex-1 wrap-anywhere whitespace-normal text-error"
        >▲ {troubled.reason.says}</span
      >{/if}
  {/if}
  <span class="ml-auto"></span>
  {#if desk.messages.all.length > 0}
    <button
      class="cursor-pointer"
      aria-expanded={showMessages}
      onclick={() => {
        showMessages = !showMessages;
        showFindings = false;
        showArm = false;
      }}
    >
      <span class="font-mono">{desk.messages.all.length}</span>
      {desk.messages.all.length === 1 ? 'message' : 'messages'}
    </button>
  {/if}
  <button class="cursor-pointer" aria-expanded={showFindings} onclick={() => (showFindings = !showFindings)}>
    △ <span class="font-mono">{desk.findings.length}</span>
    {desk.findings.length === 1 ? 'finding' : 'findings'}
  </button>
  {#if desk.running}
    <button
      class="btn btn-sm"
      title="All commands go to zero; that needs no Arm"
      onclick={() => desk.ask('POST', '/rest', {})}>All to rest</button
    >
    <button
      class="cursor-pointer underline"
      aria-expanded={showArm}
      onclick={() => {
        showArm = !showArm;
        showFindings = false;
      }}>After Arm</button
    >
  {/if}
  {#if desk.armedElsewhere}
    <button
      class="btn border-accent text-accent btn-sm"
      onclick={() => desk.ask('DELETE', '/arm')}
      aria-label="Disarm; somebody else has armed for {seconds} more seconds"
      >Armed by somebody else <span class="font-mono">{seconds} s</span></button
    >
  {:else if desk.armed}
    <button
      class="btn border-accent bg-accent text-accent-content btn-sm"
      onclick={() => desk.disarm()}
      aria-label="Disarm; armed for {seconds} more seconds"
      >Armed <span class="font-mono">{seconds} s</span></button
    >
  {:else}
    {#if desk.running}
      <select class="inplace shrink-0 cursor-pointer" aria-label="arm for" bind:value={armFor}>
        {#each armTimes as time (time)}<option value={time}
            >{time < 60 ? `${time} s` : `${time / 60} min`}</option
          >{/each}
      </select>
    {/if}
    <button
      class="btn border-accent bg-transparent font-semibold text-accent btn-sm"
      disabled={!desk.running}
      title="Allow writes to the devices for {armFor} s"
      onclick={arm}>Arm</button
    >
  {/if}
</footer>

{#if showArm && desk.running}
  <ArmPanel seconds={armFor} onclose={() => (showArm = false)} />
{/if}

{#if showFindings}
  <Panel title="Findings" class="w-[34rem]" onclose={() => (showFindings = false)}>
    {#each desk.findings as finding, i (i)}
      {@const target = targetOf(finding, desk.cell)}
      <div class="border-t border-base-300 py-1">
        <FindingLine
          {finding}
          {...target
            ? {
                onshow: () => {
                  showFindings = false;
                  follow(desk, target);
                },
              }
            : {}}
        />
      </div>
    {:else}
      <p class="text-faint">The checks find nothing.</p>
    {/each}
  </Panel>
{/if}
{#if showMessages}<MessageList onclose={() => (showMessages = false)} />{/if}
