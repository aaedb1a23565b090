<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { emptyTrain, signalsOf, turningCure, type Device, type Role } from '@fadenkreuz/core';
  import type { Holding } from './holding.svelte.js';
  import { editTrain } from './trainEdits.js';

  interface Props {
    device: Device;
    holding: Holding;
    speed: number;
    ready: boolean;
    /** Whether the device shows a bit now. */
    shows: (role: Role) => boolean | undefined;
  }
  /** Turns an axis a little, asks what was seen, and says what follows for direction, sign and limit switches. */
  let { device, holding, speed, ready, shows }: Props = $props();
  const desk = useDesk();

  let step = $state<'begin' | 'asked' | 'said'>('begin');
  let said = $state<'as meant' | 'other way' | 'not at all'>('as meant');
  /** How long it is turned, ms. */
  const turnMs = 700;

  const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
  const stateNow = () => desk.bench?.manual.find((m) => m.device === device.id)?.state;
  /** It is made ready first; only then the time counts. */
  async function turn() {
    await holding.begin(device.id, { kind: 'jog', speed: Math.abs(speed) });
    while (holding.device !== undefined && stateNow() !== 'moving') await pause(50);
    // What cannot be made ready says why, where the state of the move stands.
    if (holding.device === undefined) return;
    await pause(turnMs);
    holding.letGo();
    step = 'asked';
  }
  function answer(what: typeof said) {
    said = what;
    step = 'said';
  }
  const cure = $derived(turningCure(device));
  function turnParameter() {
    if (!cure.parameter) return;
    const { parameter, value } = cure.parameter;
    desk.edit({
      ...{
        edit: 'parameters.arrange',
        device: device.id,
        title: `turn the direction of ${device.name} round`,
      },
      parameters: [{ ...parameter, planned: value }],
      removed: [],
    });
  }
  const turnScale = () => editTrain(desk, device, { reversed: !(device.train ?? emptyTrain).reversed });

  const switches = $derived(
    device.links.flatMap((link) =>
      signalsOf(link.feedback).filter(
        ({ role }) => role?.is === 'limit positive' || role?.is === 'limit negative',
      ),
    ),
  );
  const switchesSeen = $derived.by(() => {
    const [positive, negative] = [shows('limit positive') === true, shows('limit negative') === true];
    if (positive && negative) return 'both';
    return positive ? 'right' : negative ? 'swapped' : 'waiting';
  });
  function swap() {
    for (const link of device.links)
      for (const field of link.feedback.fields) {
        const is = field.role?.is;
        if (is !== 'limit positive' && is !== 'limit negative') continue;
        const other = is === 'limit positive' ? 'limit negative' : 'limit positive';
        desk.edit({
          ...{ edit: 'field.set', image: link.feedback.id, field: field.id },
          set: { role: { ...field.role!, is: other } },
        });
      }
  }
</script>

<section class="mt-4 border-t border-base-300 pt-2" aria-label="direction check">
  <h2 class="font-semibold">Direction and signs</h2>
  {#if step === 'begin'}
    <p class="text-sm">
      Turns {device.name} for {turnMs / 1000} s in the positive direction, at the speed above. Stand where you see
      it.
      <button class="btn ml-2 border-base-300 btn-sm" disabled={!ready} onclick={turn}>Turn a little</button>
    </p>
  {:else if step === 'asked'}
    <p class="text-sm">Which way did it go, seen at the machine?</p>
    <div class="mt-1 flex gap-2">
      <button class="btn border-base-300 btn-sm" onclick={() => answer('as meant')}
        >The way that was meant</button
      >
      <button class="btn border-base-300 btn-sm" onclick={() => answer('other way')}>The other way</button>
      <button class="btn border-base-300 btn-sm" onclick={() => answer('not at all')}>Not at all</button>
    </div>
  {:else}
    {#if said === 'as meant'}
      <p class="text-sm">✓ Direction and sign are right: above 0 is the way that was meant.</p>
      {#if switches.length > 0}
        <p class="mt-1 text-sm" data-switches={switchesSeen}>
          {#if switchesSeen === 'waiting'}
            Now press the limit switch at the positive end, the way it just went.
          {:else if switchesSeen === 'right'}
            ✓ <span class="font-mono">limit positive</span> shows the switch at the positive end.
          {:else if switchesSeen === 'swapped'}
            <span class="text-error">▲ <span class="font-mono">limit negative</span> shows it.</span> If it is
            the switch at the positive end that is pressed, the two are wired to each other's places: change
            their wires, or
            <button class="btn ml-1 border-base-300 btn-xs" onclick={swap}>Swap their roles</button>
          {:else}
            <span class="text-error">▲ Both show pressed: look at their wires and their supply.</span>
          {/if}
        </p>
      {/if}
    {:else if said === 'other way'}
      <p class="text-sm text-error">▲ It goes against its sign.</p>
      <ul class="mt-1 flex flex-col gap-1 text-sm">
        {#if cure.parameter}
          <li>
            Plan <strong>{cure.parameter.value}</strong> for {cure.parameter.parameter.name}, then write it:
            <button class="btn border-base-300 btn-xs" onclick={turnParameter}>Plan it</button>
            <a class="link" href="/cells/{desk.cell.id}/parameters">Parameters</a>
          </li>
        {/if}
        {#if cure.scale}
          <li>
            Let it count against the motor: the scales that follow the train change their sign. Limits that
            the drive keeps itself stay where they are: look at them.
            <button class="btn border-base-300 btn-xs" onclick={turnScale}>Count against the motor</button>
          </li>
        {/if}
        <li>{cure.byHand}</li>
      </ul>
    {:else}
      <p class="text-sm">
        It did not move: <em>What stops it</em>, on the bench, names the condition that is missing.
      </p>
    {/if}
    <button class="btn mt-2 btn-ghost btn-xs" onclick={() => (step = 'begin')}>Check again</button>
  {/if}
</section>
