<script lang="ts">
  import type { Device } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { marksOf, mostNamed, radiusOf, reach, ringTimes, shortName } from './reticle.js';

  interface Props {
    devices: readonly Device[];
    chosen: string | undefined;
    onchoose: (id: string) => void;
  }
  /** The line-up as a picture: the controller in the centre, devices at the ring of their update time. */
  let { devices, chosen, onchoose }: Props = $props();
  const desk = useDesk();

  const marks = $derived(marksOf(devices));
  /** The times stand between the last device and the first. */
  const between = $derived(-Math.PI / 2 - Math.PI / Math.max(2, marks.length));
  let pointed = $state<string>();
  const named = (id: string) => marks.length <= mostNamed || id === chosen || id === pointed;

  /** Shape by state: a disc stands, a triangle is lost or refused, a square has no part in the bench. */
  function stateOf(device: Device): { word: string; shape: 'disc' | 'triangle' | 'square' | 'ring' } {
    const status = desk.linkStatus(device.id);
    if (!status) return { word: 'bench off', shape: 'ring' };
    if (status.state === 'no-stand-in') return { word: 'not on the bench', shape: 'square' };
    return status.state === 'open'
      ? { word: 'open', shape: 'disc' }
      : { word: status.state, shape: 'triangle' };
  }

  /** The whole name, behind what is seen of it: who speaks to the computer says what he sees. */
  const seenName = (name: string) => (shortName(name) === name ? name : `${shortName(name)} (${name})`);
</script>

<svg
  viewBox="{-reach - 130} {-reach} {2 * reach + 260} {2 * reach}"
  class="block h-full w-full select-none"
  role="group"
  aria-label="the line-up around its controller"
>
  {#each ringTimes as ms (ms)}
    <circle r={radiusOf(ms)} class="fill-none stroke-base-300" stroke-width="1" />
    <text
      x={radiusOf(ms) * Math.cos(between)}
      y={radiusOf(ms) * Math.sin(between) + 4}
      text-anchor="middle"
      paint-order="stroke"
      stroke-width="6"
      class="fill-faint stroke-base-200 font-mono text-xs">{ms} ms</text
    >
  {/each}
  <path d="M0 {-reach}V{reach}M{-reach} 0H{reach}" class="stroke-base-300" stroke-width="1" />

  {#each marks as { device, x, y, stroke } (device.id)}
    <line
      x1={x * 0.08}
      y1={y * 0.08}
      x2={x}
      y2={y}
      stroke-width={stroke}
      class={[device.id === chosen ? 'stroke-accent' : 'stroke-base-content/35']}
      stroke-dasharray={stateOf(device).shape === 'disc' || stateOf(device).shape === 'ring'
        ? undefined
        : '3 5'}
    />
  {/each}

  <circle r="26" class="fill-base-100 stroke-base-content" stroke-width="2" />
  <path d="M0 -36V-14M0 14V36M-36 0H-14M14 0H36" class="stroke-base-content" stroke-width="2" />
  <circle r="4" class="fill-accent" />
  <text y="52" text-anchor="middle" class="fill-base-content font-mono text-[12px] font-semibold"
    >{shortName(desk.cell.controller.name)}<title>{desk.cell.controller.name}</title></text
  >

  {#each marks as { device, x, y, labelX, labelY, anchor, updateMs } (device.id)}
    {@const { word, shape } = stateOf(device)}
    {@const on = device.id === chosen}
    <g
      role="button"
      tabindex="0"
      class="cursor-pointer outline-none [&:focus-visible>.halo]:stroke-base-content"
      aria-label="{seenName(device.name)}, {word}{updateMs === undefined ? '' : `, ${updateMs} ms`}"
      aria-pressed={on}
      onclick={() => onchoose(device.id)}
      onkeydown={(event) =>
        (event.key === 'Enter' || event.key === ' ') && (event.preventDefault(), onchoose(device.id))}
      onpointerenter={() => (pointed = device.id)}
      onpointerleave={() => (pointed = undefined)}
      onfocus={() => (pointed = device.id)}
      onblur={() => (pointed = undefined)}
    >
      <circle
        class={['halo fill-transparent', on ? 'stroke-accent' : 'stroke-transparent']}
        cx={x}
        cy={y}
        r="13"
        stroke-width="2"
      />
      {#if shape === 'disc'}<circle cx={x} cy={y} r="7" class="fill-success" />
      {:else if shape === 'ring'}<circle
          cx={x}
          cy={y}
          r="6"
          class="fill-base-200 stroke-base-content"
          stroke-width="2"
        />
      {:else if shape === 'triangle'}<path d="M{x} {y - 9}l9 15h-18z" class="fill-error" />
      {:else}<rect
          x={x - 6}
          y={y - 6}
          width="12"
          height="12"
          class="fill-base-200 stroke-faint"
          stroke-width="2"
        />{/if}
      {#if named(device.id)}
        <text
          x={labelX}
          y={labelY}
          text-anchor={anchor}
          paint-order="stroke"
          stroke-width="4"
          class="fill-base-content stroke-base-200 font-mono text-[13px] font-semibold"
          >{shortName(device.name)}<title>{device.name}</title></text
        >
      {/if}
    </g>
  {/each}
</svg>
