<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import LongSelect from '$lib/controls/LongSelect.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { wordProfiles, type CommandOrder, type Device } from '@fadenkreuz/core';
  import { stationsNow } from './beamsNow.svelte.js';

  /** The states of a device as stations on a line, with the bit that is missing for the next one. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();

  let profile = $state('');
  const stations = $derived(stationsNow(desk, device, profile));
  const order = (order: CommandOrder) => desk.askArmed('/command', { device: device.id, order });
  const hex = (word: number) => `16#${word.toString(16).toUpperCase().padStart(4, '0')}`;
  const hereAt = $derived(stations?.line.findIndex((s) => s.here) ?? -1);
</script>

{#if stations}
  {@const { next, open } = stations}
  <LensSection title="State" brief={stations.title}>
    <label class="lens-row"
      >profile
      <LongSelect class="min-w-0" text={stations.profile.title} aria-label="profile" bind:value={profile}>
        <option value="">by its roles</option>
        {#each wordProfiles as { id, title } (id)}<option value={id}>{title}</option>{/each}
      </LongSelect></label
    >
    <div class="lens-row">
      <span>words</span>
      <span class="font-mono text-xs"
        ><span class="text-command">▸ {hex(stations.control)}</span>
        <span class="text-feedback">◂ {hex(stations.status)}</span></span
      >
    </div>
    {#if stations.mode}<p class="text-xs text-faint">{stations.mode}</p>{/if}
    <ol class="mt-2" aria-label="states">
      {#each stations.line as station, i (station.id)}
        <li class="relative pb-1 pl-7" aria-current={station.here ? 'step' : undefined}>
          {#if i < stations.line.length - 1}
            <span
              class={[
                'absolute top-[10px] bottom-[-10px] left-[11px] w-[2px]',
                i < hereAt ? 'bg-base-content' : 'bg-base-300',
              ]}
              aria-hidden="true"
            ></span>
          {/if}
          <svg viewBox="0 0 24 24" class="absolute top-[-2px] left-0 size-[24px]" aria-hidden="true">
            {#if station.here}
              <circle
                cx="12"
                cy="12"
                r="8"
                fill="var(--color-base-100)"
                class="stroke-accent"
                stroke-width="2"
              />
              <path d="M12 1v6M12 17v6M1 12h6M17 12h6" class="stroke-accent" stroke-width="2" />
            {/if}
            <circle
              cx="12"
              cy="12"
              r="3.4"
              class={station.here ? 'fill-accent' : i < hereAt ? 'fill-base-content' : 'fill-base-300'}
            />
          </svg>
          <span class={[station.here ? 'font-semibold' : 'text-faint']}>{station.title}</span>
          {#if station.here && next}
            <div class="mt-0.5 mb-1 border-l-2 border-command pl-2 text-sm">
              {#if next.transition.command === null}
                <span class="text-faint">The device goes on by itself.</span>
              {:else}
                {#each next.missing as { title, bit, to } (bit)}
                  <span class="block text-command">▸ bit {bit}, {title}: {to}</span>
                {:else}<span class="block text-faint">All of its bits are given.</span>{/each}
                {#if next.order}
                  {@const does = next.order}
                  <button
                    class="btn mt-1 btn-sm"
                    disabled={!desk.armed}
                    title={desk.armed ? undefined : 'Arm first'}
                    onclick={() => order(does)}
                    >{next.transition.title}{next.transition.number
                      ? ` (${next.transition.number})`
                      : ''}</button
                  >
                {/if}
              {/if}
            </div>
          {/if}
        </li>
      {/each}
    </ol>
    {#if stations.state === ''}
      <p class="text-error">▲ The status word shows no state of this profile.</p>
    {/if}
    {#if open.length > 0}
      <p class="mt-1 text-xs text-faint">
        Open from here: {open.map((t) => `${t.title}${t.number ? ` (${t.number})` : ''}`).join(', ')}.
      </p>
    {/if}
  </LensSection>
{/if}
