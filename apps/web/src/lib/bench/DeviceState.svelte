<script lang="ts">
  import {
    asDescribed,
    identityStatusText,
    indicatorText,
    lightStates,
    ownLights,
    shownText,
    type Device,
    type Indicator,
  } from '@fadenkreuz/core';
  import type { LinkStatus } from '@fadenkreuz/field/agent-api';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { ageText } from './benchTexts.js';

  /** What is seen of a running device: its lights, how its link does, and what would explain it. */
  let { device, status }: { device: Device; status: LinkStatus } = $props();

  const desk = useDesk();
  /** What each light of a real device can show: nobody but who stands before it knows. */
  const states = $derived(lightStates(ownLights(device)));
  const names = $derived([...new Set(states.map((s) => s.light))]);
  const keyOf = ({ colour, pattern }: { colour: string; pattern: string }) => `${pattern} ${colour}`;
  const seenNow = (name: string) => status.indicators.find((i) => i.name === name.toLowerCase());
  function see(name: string, key: string) {
    const lights = names.flatMap((light) => {
      const now = light === name ? key : seenNow(light) ? keyOf(seenNow(light)!) : '';
      const state = states.find((s) => s.light === light && keyOf(s) === now);
      return state ? [{ light, colour: state.colour, pattern: state.pattern }] : [];
    });
    void desk.ask('POST', '/seen', { device: device.id, lights });
  }

  /** A light as a shape: filled, hollow, half for flashing. */
  const shape = ({ colour, pattern }: Indicator) =>
    colour === 'off' ? '○' : pattern === 'steady' ? '●' : '◐';
  const link = $derived(device.links.find((l) => l.id === status.link));
  const rows = $derived(
    [
      ['reached at', `${status.address}:${status.port}`],
      ['last packet', status.ageMs === null ? 'none yet' : `${ageText(status.ageMs)} ago`],
      ['new data', status.freshMs === null ? '' : `${ageText(status.freshMs)} ago`],
      ['values changed', status.changedMs === null ? '' : `${ageText(status.changedMs)} ago`],
      ['sent · received', `${status.sent} · ${status.received}`],
      [
        'missing · late · twice',
        status.lost + status.late + status.doubled
          ? `${status.lost} · ${status.late} · ${status.doubled}`
          : 'none',
      ],
      ['timed out · opened again', `${status.timeouts} · ${status.reconnects}`],
      [
        'last answer',
        status.probe?.answerMs == null
          ? status.probe
            ? 'none'
            : ''
          : `${status.probe.answerMs.toFixed(1)} ms`,
      ],
      [
        'status word',
        status.probe?.identityStatus == null
          ? ''
          : `16#${status.probe.identityStatus.toString(16).toUpperCase().padStart(4, '0')}`,
      ],
    ].filter(([, value]) => value),
  );
</script>

{#if status.reason && status.state !== 'open'}
  <p class="mt-2 text-error">▲ {status.reason.says}</p>
  <p class="text-faint">{status.reason.cure}</p>
{/if}

{#if status.reads && status.state === 'open'}
  <p class="mt-2">A real device: it is only read, and nothing is written to it before Arm.</p>
{/if}

{#if status.causes.length > 0}
  <h3 class="lens-heading">Likely causes</h3>
  <ol class="list-decimal space-y-2 pl-5" aria-label="likely causes">
    {#each status.causes.slice(0, 4) as cause, i (cause.title)}
      <li class={[i === 0 && 'font-semibold']}>
        {cause.title}
        <ul class="font-normal text-faint">
          {#each cause.evidence as seen (seen)}<li>– {seen}</li>{/each}
        </ul>
        <p class="font-normal">{cause.next}</p>
      </li>
    {/each}
  </ol>
{/if}

{#if status.real}
  <h3 class="lens-heading">What do its lights show?</h3>
  {#each names as name (name)}
    <label class="lens-row">
      {name}
      <select
        class="inplace max-w-56 min-w-0 cursor-pointer"
        aria-label="what the {name} light shows"
        value={seenNow(name) ? keyOf(seenNow(name)!) : ''}
        onchange={(event) => see(name, event.currentTarget.value)}
      >
        <option value="">not looked at</option>
        {#each states.filter((s) => s.light === name) as state (keyOf(state))}
          <option value={keyOf(state)}>{shownText(state)} – {state.means}</option>
        {/each}
      </select>
    </label>
  {/each}
{:else if status.indicators.length > 0}
  <h3 class="lens-heading">Lights at the device</h3>
  <ul aria-label="lights" class="grid grid-cols-[auto_fit-content(8rem)_1fr] gap-x-2">
    {#each status.indicators as light (light.name)}
      <li class="col-span-3 grid grid-cols-subgrid py-0.5">
        <span aria-hidden="true">{shape(light)}</span>
        <span class="font-medium">{light.name}</span>
        <span>{indicatorText(asDescribed(light, ownLights(device)))}</span>
      </li>
    {/each}
  </ul>
{/if}

<h3 class="lens-heading">Link</h3>
{#each rows as [title, value] (title)}
  <div class="lens-row"><span>{title}</span><span class="font-mono">{value}</span></div>
{/each}
{#if status.probe?.identityStatus != null}
  <p class="text-faint">{identityStatusText(status.probe.identityStatus)}</p>
{/if}
{#if link?.connection.startsWith('polled')}
  <p class="text-faint">
    Asked {link.connection === 'polled-connected' ? 'over a connection' : 'without a connection'}: on loss it
    {link.onLoss === 'drop' ? 'drops its outputs' : 'holds the last state'}.
  </p>
{/if}
