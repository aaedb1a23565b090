<script lang="ts">
  import ArrowLeft from '@lucide/svelte/icons/arrow-left';
  import ArrowRight from '@lucide/svelte/icons/arrow-right';
  import InPlace from '$lib/controls/InPlace.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    figureText as figure,
    codecOf,
    letGoLimitMs,
    manualHome,
    manualMove,
    manualNeeds,
    manualValues,
    manualWayOf,
    quantitiesOf,
    rolePlaces,
    type Device,
  } from '@fadenkreuz/core';
  import { onMount } from 'svelte';
  import DirectionCheck from './DirectionCheck.svelte';
  import MovedValue from './MovedValue.svelte';
  import { Holding } from './holding.svelte.js';
  import { numberTyped } from './trainEdits.js';

  /** Moves of a device by hand: held, by a distance, to a position, home; what it shows meanwhile. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();
  const holding = new Holding(desk);
  onMount(() => holding.listen());

  const way = $derived(manualWayOf(device));
  const positions = $derived(manualMove(device) !== undefined);
  const homes = $derived(manualHome(device) !== undefined);
  let speed = $state<number | undefined>();
  let distance = $state(1);
  let position = $state(0);
  const limit = $derived(way?.limit ?? 0);
  const chosen = $derived(Math.min(speed ?? limit / 5, limit));
  const status = $derived(desk.bench?.manual.find((m) => m.device === device.id));
  $effect(() => holding.hear(status?.state));
  const moves = $derived(desk.linkStatus(device.id)?.side?.moves ?? null);
  const met = $derived<Record<string, number>>(desk.linkStatus(device.id)?.side?.met ?? {});
  const switches = $derived(
    (['negative', 'positive'] as const)
      .map((end) => [`limit switch ${end}`, end] as const)
      .filter(([name]) => quantitiesOf(device).some((one) => one.name === name)),
  );
  const ready = $derived(desk.armed && desk.linkStatus(device.id)?.state === 'open');
  const unit = $derived((way?.unit ?? '').replace('/s', ''));

  const values = $derived(
    manualValues(device).map(({ title, place, range }) => {
      const link = device.links.find((l) => rolePlaces(l.feedback).get(place.role!));
      const bytes = link && desk.bytes.get(link.feedback.id);
      const codec = link && codecOf(link.feedback);
      const at = link && rolePlaces(link.feedback).get(place.role!)?.get(1);
      if (!codec || !at || !bytes || bytes.length < codec.bytes) return { title, range, text: '–' };
      codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
      if (at.bit === null) {
        const number = codec.numbers[at.index];
        const text = codec.textAt(at.index);
        if (codec.signals[at.index]!.bits > 1) return { title, range, text, number };
        return { title, range, on: number === 1, text: `${number === 1 ? '■' : '□'} ${text}` };
      }
      const word = BigInt(codec.valueAt(at.index) as number | bigint);
      const on = ((word >> BigInt(at.bit)) & 1n) === 1n;
      return { title, range, on, text: on ? '■ 1' : '□ 0' };
    }),
  );
  /** Whether a bit is shown now; undefined where it is not known. */
  const shownNow = (all: typeof values, role: string): boolean | undefined =>
    all.find(({ title }) => title === role)?.on;
  const states = {
    preparing: 'gets ready',
    moving: 'moves',
    'at rest': 'at rest',
    failed: 'failed',
  } as const;

  function typed(take: (value: number) => void, text: string): boolean {
    const number = numberTyped(text);
    if (number === undefined || number === null) {
      desk.note = { says: `${text || 'Nothing'} is no number.`, cure: 'Type a number such as 12.5.' };
      return false;
    }
    take(number);
    return true;
  }
  const jog = (sign: 1 | -1) => void holding.begin(device.id, { kind: 'jog', speed: sign * chosen });
  /** Space and Enter hold as a mouse does. */
  function key(event: KeyboardEvent, sign: 1 | -1) {
    if (event.key !== ' ' && event.key !== 'Enter') return;
    event.preventDefault();
    if (event.type === 'keyup') holding.letGo();
    else if (!event.repeat) jog(sign);
  }
</script>

{#if !way}
  <p class="text-faint">
    Nothing of {device.name} moves it: it needs fields with the roles {manualNeeds}. Give them in the Sight.
  </p>
{:else}
  <section aria-label="by hand">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
      <label class="flex items-center gap-2"
        >speed
        <InPlace
          class="w-20 text-right font-mono"
          label="speed by hand"
          value={String(Number(chosen.toPrecision(6)))}
          take={(text) => typed((value) => (speed = Math.min(Math.abs(value), limit)), text)}
        />
        <span class="font-mono text-faint">{way.unit}</span>
      </label>
      <input
        type="range"
        class="range w-40 range-xs"
        aria-label="speed by hand, slider"
        min="0"
        max={limit}
        step={limit / 100}
        value={chosen}
        oninput={(event) => (speed = Number(event.currentTarget.value))}
      />
      <span class="text-sm text-faint">{limit} {way.unit} at most; by {way.title}</span>
    </div>
    <div class="mt-3 grid grid-cols-[auto_1fr] gap-6">
      <div class="flex flex-col gap-3">
        <div class="flex items-center gap-2" role="group" aria-label="hold to move">
          {#each [-1, 1] as const as sign (sign)}
            <button
              class="btn h-16 w-28 touch-none border-base-content"
              disabled={!ready}
              aria-label={sign < 0 ? 'Hold: negative' : 'Hold: positive'}
              onpointerdown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId);
                jog(sign);
              }}
              onpointerup={() => holding.letGo()}
              onpointercancel={() => holding.letGo()}
              onlostpointercapture={() => holding.letGo()}
              onkeydown={(event) => key(event, sign)}
              onkeyup={(event) => key(event, sign)}
              onblur={() => holding.letGo()}
            >
              {#if sign < 0}<ArrowLeft aria-hidden="true" />{/if}
              {sign < 0 ? 'negative' : 'positive'}
              {#if sign > 0}<ArrowRight aria-hidden="true" />{/if}
            </button>
          {/each}
        </div>
        <p class="max-w-60 text-xs text-faint">
          It moves as long as the button is held. It rests when it is let go, when this window loses focus or
          connection, and when Arm ends.
        </p>
        {#if positions}
          <div class="flex items-center gap-2">
            <button
              class="btn border-base-300 btn-sm"
              disabled={!ready}
              aria-label="Step: negative"
              onclick={() => holding.begin(device.id, { kind: 'step', distance: -distance, speed: chosen })}
              >−</button
            >
            <InPlace
              class="w-20 text-right font-mono"
              label="distance of a step"
              value={String(distance)}
              take={(text) => typed((value) => (distance = Math.abs(value)), text)}
            />
            <span class="font-mono text-faint">{unit}</span>
            <button
              class="btn border-base-300 btn-sm"
              disabled={!ready}
              aria-label="Step: positive"
              onclick={() => holding.begin(device.id, { kind: 'step', distance, speed: chosen })}>+</button
            >
          </div>
          <div class="flex items-center gap-2">
            <InPlace
              class="w-24 text-right font-mono"
              label="position to go to"
              value={String(position)}
              take={(text) => typed((value) => (position = value), text)}
            />
            <span class="font-mono text-faint">{unit}</span>
            <button
              class="btn border-base-300 btn-sm"
              disabled={!ready}
              onclick={() => holding.begin(device.id, { kind: 'go to', position, speed: chosen })}
              >Go to</button
            >
            {#if homes}
              <button
                class="btn border-base-300 btn-sm"
                disabled={!ready}
                onclick={() => holding.begin(device.id, { kind: 'home', speed: chosen })}>Home</button
              >
            {/if}
          </div>
        {/if}
        <button
          class="btn border-base-300 btn-sm"
          disabled={holding.device === undefined}
          onclick={() => holding.letGo()}>Let go</button
        >
      </div>
      <div>
        <p class="font-mono text-sm" role="status" aria-label="state of the move">
          {#if status}
            <strong>{status.kind}: {states[status.state]}</strong>
            {status.reason}
            {#if status.wireMs !== null}
              · the command to rest was sent after {status.wireMs} ms ({letGoLimitMs(device)} ms at most)
            {/if}
          {:else}nothing was moved yet{/if}
        </p>
        <dl class="mt-2 grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-6">
          {#each values as { title, text, range, number } (title)}
            <MovedValue {title} {text} {range} {number} />
          {/each}
        </dl>
        {#if moves !== null}
          <p class="mt-2 text-sm" data-machine={Math.sign(moves)}>
            At the machine (simulated), as somebody sees it who stands there:
            <strong class="font-mono"
              >{moves === 0
                ? '· stands'
                : moves > 0
                  ? `→ forward, ${figure(moves, way.unit)}`
                  : `← backward, ${figure(-moves, way.unit)}`}</strong
            >
          </p>
        {/if}
      </div>
    </div>
    {#if moves !== null && switches.length > 0}
      <p class="mt-2 flex flex-wrap items-center gap-2 text-sm">
        Limit switches of the simulated axis:
        {#each switches as [quantity, end] (quantity)}
          {@const pressed = met[quantity] === 1}
          <button
            class={['btn border-base-300 btn-xs', pressed && 'border-base-content font-semibold']}
            aria-pressed={pressed}
            onclick={() =>
              desk.ask('POST', '/met', { device: device.id, quantity, value: pressed ? null : 1 })}
            >{pressed ? '■' : '□'} press at the {end} end</button
          >
        {/each}
      </p>
    {/if}
    <DirectionCheck {device} {holding} speed={chosen} {ready} shows={(role) => shownNow(values, role)} />
  </section>
{/if}
