<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import type { CommandOrder, Device, Ring } from '@fadenkreuz/core';
  import BeamChangesForm from './BeamChangesForm.svelte';
  import { beamsNow, linksOfBeam } from './beamsNow.svelte.js';

  /**
   * What stops a device: a beam from the command to what it does, through a ring for each condition. It ends at the
   * first that does not hold, with its cure.
   */
  let { device }: { device: Device } = $props();
  const desk = useDesk();

  const beams = $derived(beamsNow(desk, device));
  let action = $state('');
  const beam = $derived(beams.find((b) => b.action === action) ?? beams[0]);
  const at = $derived(beam ? (beam.stopsAt ? beam.rings.indexOf(beam.stopsAt) : beam.rings.length) : 0);

  $effect(() => {
    desk.live.show('beam', linksOfBeam(desk, device));
    return () => desk.live.show('beam', []);
  });
  $effect(() => desk.parameters.follow());

  const order = (order: CommandOrder) => desk.askArmed('/command', { device: device.id, order });
  const words = { closed: 'holds', open: 'does not hold', unknown: 'not known' } as const;
  /** How the beam looks at a ring. */
  const reach = (ring: Ring, i: number): 'lit' | 'end' | 'dark' =>
    i < at ? 'lit' : ring === beam?.stopsAt ? 'end' : 'dark';
</script>

{#if beam}
  <LensSection title="What stops it" brief={beam.stopsAt?.title ?? 'nothing'}>
    {#if beams.length > 1}
      <span class="segment mb-1" role="group" aria-label="what it is to do">
        {#each beams as one (one.action)}
          <button aria-pressed={one === beam} onclick={() => (action = one.action)}>{one.action}</button>
        {/each}
      </span>
    {/if}
    <p role="status" class="sr-only">
      {beam.stopsAt ? `${beam.action} stops at ${beam.stopsAt.title}` : `nothing stops ${beam.action}`}
    </p>
    <ol class="relative mt-1" aria-label="conditions to {beam.action}">
      {#each beam.rings as ring, i (ring.id)}
        {@const how = reach(ring, i)}
        <li
          class={['relative flex gap-2 pb-1.5 pl-7', how === 'dark' && 'text-faint']}
          data-ring={ring.id}
          data-state={ring.state}
        >
          <span
            class={[
              'absolute top-0 bottom-0 left-[10px] w-[3px]',
              how === 'lit' ? 'bg-command' : how === 'end' ? 'h-[10px] bg-command' : 'bg-base-300',
            ]}
            aria-hidden="true"
          ></span>
          <svg viewBox="0 0 24 24" class="absolute top-0 left-0 size-[24px]" aria-hidden="true">
            <circle
              cx="12"
              cy="10"
              r="7"
              fill="var(--color-base-100)"
              class={how === 'lit' ? 'stroke-command' : how === 'end' ? 'stroke-error' : 'stroke-base-300'}
              stroke-width="2.4"
              stroke-dasharray={ring.state === 'unknown' ? '3 3' : ''}
            />
            {#if how === 'lit' && ring.state === 'closed'}<circle
                cx="12"
                cy="10"
                r="2.6"
                class="fill-command"
              />{/if}
            {#if how === 'end'}<path
                d="M8.5 6.5l7 7M15.5 6.5l-7 7"
                class="stroke-error"
                stroke-width="2.4"
              />{/if}
          </svg>
          <span class="min-w-0">
            <span class={[how === 'end' && 'font-semibold']}>{ring.title}</span>
            <span class="sr-only">: {words[ring.state]}</span>
            {#if how === 'end'}
              <span class="block">{ring.says}</span>
              {#if ring.does}
                {@const does = ring.does}
                <button
                  class="btn mt-1 btn-sm"
                  disabled={!desk.armed}
                  title={desk.armed ? undefined : 'Arm first'}
                  onclick={() => order(does)}>{does.title}</button
                >
              {/if}
            {:else if ring.state === 'unknown'}
              <span class="block text-xs text-faint">{ring.says}</span>
            {/if}
          </span>
        </li>
      {/each}
      <li class={['relative pl-7 font-semibold', beam.stopsAt && 'text-faint']}>
        <svg viewBox="0 0 24 24" class="absolute top-0 left-0 size-[24px]" aria-hidden="true">
          <path
            d="M12 0v16M6.5 11l5.5 6 5.5-6"
            fill="none"
            stroke-width="2.4"
            class={beam.stopsAt ? 'stroke-base-300' : 'stroke-command'}
          />
        </svg>
        {beam.action}{beam.stopsAt ? '' : ': nothing that is known stops it'}
      </li>
    </ol>
    <BeamChangesForm {device} action={beam.action} />
  </LensSection>
{/if}
