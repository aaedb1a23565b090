<script lang="ts">
  import type { AfterArm } from '@fadenkreuz/field/agent-api';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { oneOf } from '$lib/controls/oneOf.js';
  import Panel from './Panel.svelte';

  /** What Arm will send to real devices, and what each device gets when Arm ends. */
  let { seconds, onclose }: { seconds: number; onclose: () => void } = $props();
  const desk = useDesk();

  const choices = {
    idle: 'zeros, controller idle',
    hold: 'the last values',
    release: 'nothing: its reaction to a lost connection',
  } as const satisfies Record<AfterArm, string>;
  const ways = Object.keys(choices) as AfterArm[];

  const nameOf = (device: string) => desk.cell.devices.find((d) => d.id === device)?.name ?? device;
  const links = $derived(
    [...(desk.bench?.links ?? [])]
      .filter((l) => l.state !== 'no-stand-in' || l.sends)
      .sort((a, b) => Number(b.real) - Number(a.real)),
  );
  const sends = $derived(links.filter((l) => l.sends));

  async function arm() {
    if (await desk.arm(seconds)) onclose();
  }
</script>

<Panel title="Arm" class="w-[40rem]" {onclose}>
  {#if sends.length > 0}
    <p class="mb-1">These are real devices. As soon as you arm, they get:</p>
    <ul class="mb-3" aria-label="what Arm sends">
      {#each sends as link (link.link)}
        <li class="border-t border-base-300 py-1">
          <span class="font-mono font-semibold">{nameOf(link.device)}</span>
          <span class="font-mono text-faint">{link.address}</span><br />{link.sends}
        </li>
      {/each}
    </ul>
    {#if !desk.armed}
      <button
        class="btn mb-4 border-accent bg-accent text-accent-content btn-sm"
        disabled={desk.armedElsewhere}
        onclick={arm}>Arm for {seconds} s and send this</button
      >
    {/if}
  {/if}
  <h3 class="lens-heading">When Arm ends, a device gets</h3>
  {#each links as link (link.link)}
    <label class="lens-row">
      <span
        ><span class="font-mono">{nameOf(link.device)}</span>
        <span class="text-faint">{link.real ? 'real device' : 'stand-in'}</span></span
      >
      <select
        class="inplace max-w-80 cursor-pointer pr-6"
        aria-label="when Arm ends, {nameOf(link.device)} gets"
        value={link.afterArm}
        onchange={(event) =>
          desk.ask('POST', '/after', {
            link: link.link,
            does: oneOf(ways, event.currentTarget.value) ?? link.afterArm,
          })}
      >
        {#each ways as way (way)}<option value={way}>{choices[way]}</option>{/each}
      </select>
    </label>
  {:else}
    <p class="text-faint">The bench has no link.</p>
  {/each}
</Panel>
