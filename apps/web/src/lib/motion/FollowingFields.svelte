<script lang="ts">
  import InPlace from '$lib/controls/InPlace.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    codecOf,
    counted,
    followingRoles,
    imagesOf,
    scalingOf,
    type Device,
    type DriveTrain,
    type Follows,
    type Role,
  } from '@fadenkreuz/core';
  import { editTrain } from './trainEdits.js';

  /** The fields of the device that measure its move: which take their scale from the train; raw number beside value. */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();

  const rows = $derived(
    device.links.flatMap((link) =>
      imagesOf(link).flatMap((image) => {
        const codec = codecOf(image);
        const bytes = desk.bytes.get(image.id);
        if (bytes && bytes.length >= codec.bytes)
          codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
        return codec.signals.flatMap((signal, index) => {
          const role = signal.role?.is;
          if (!role || !(role in followingRoles)) return [];
          return [
            {
              ...{ key: `${image.id} ${signal.id}`, role, signal, direction: image.direction },
              raw: bytes ? codec.numberAt(index) : undefined,
              value: bytes ? codec.textAt(index) : undefined,
            },
          ];
        });
      }),
    ),
  );
  const followsOf = (role: Role) => train.follows.find((f) => f.role === role);

  /** What a field usually counts; without an encoder the drive knows revolutions only. */
  const usualCount = (role: Role): Follows['counts'] =>
    train.encoder ? (followingRoles[role] ?? 'increments') : 'rpm';
  function set(role: Role, part: Partial<Follows> | null): boolean {
    const others = train.follows.filter((f) => f.role !== role);
    const usual: Follows = { role, counts: usualCount(role), places: 0, full: 16_384 };
    const follows = part ? [...others, { ...usual, ...followsOf(role), ...part }] : others;
    return editTrain(desk, device, { follows });
  }
</script>

{#if rows.length === 0}
  <p class="text-sm text-faint">
    No field has a role of position, speed or acceleration: give it in the Sight.
  </p>
{:else}
  <table class="w-full border-collapse text-sm" aria-label="fields that follow the train">
    <thead>
      <tr class="border-b border-base-content text-left text-xs text-faint">
        <th class="py-1 pr-2 font-normal">field</th>
        <th class="py-1 pr-2 font-normal">role</th>
        <th class="py-1 pr-2 font-normal">its scale</th>
        <th class="py-1 pr-2 font-normal">counts</th>
        <th class="py-1 pr-2 text-right font-normal">raw</th>
        <th class="py-1 text-right font-normal">value</th>
      </tr>
    </thead>
    <tbody>
      {#each rows as { key, role, signal, direction, raw, value } (key)}
        {@const follows = followsOf(role)}
        <tr class="border-b border-base-300">
          <td class="py-0.5 pr-2 font-mono">
            <span class={direction === 'command' ? 'text-command' : 'text-feedback'} aria-hidden="true"
              >{direction === 'command' ? '▸' : '◂'}</span
            >
            {signal.name}
          </td>
          <td class="py-0.5 pr-2 text-faint">{role}</td>
          <td class="py-0.5 pr-2">
            <label class="flex min-h-7 items-center gap-1.5">
              <input
                type="checkbox"
                class="checkbox rounded-sm checkbox-xs"
                checked={follows !== undefined}
                disabled={!scalingOf(train) && !follows}
                aria-label="{signal.name} follows the train"
                onchange={(event) => set(role, event.currentTarget.checked ? {} : null)}
              />
              <span class="font-mono text-xs">{signal.scale?.factor ?? '1'} {signal.unit}</span>
            </label>
          </td>
          <td class="py-0.5 pr-2">
            {#if follows}
              <select
                class="inplace"
                aria-label="what {signal.name} counts"
                value={follows.counts}
                onchange={(event) => set(role, { counts: event.currentTarget.value as Follows['counts'] })}
              >
                {#each counted as one (one)}<option value={one}>{one}</option>{/each}
              </select>
              <select
                class="inplace"
                aria-label="decimal places of {signal.name}"
                value={follows.places}
                onchange={(event) => set(role, { places: Number(event.currentTarget.value) })}
              >
                {#each [0, 1, 2, 3, 4] as places (places)}<option value={places}>{places} places</option
                  >{/each}
              </select>
              {#if follows.counts === 'full scale'}
                <InPlace
                  class="w-20 text-right font-mono"
                  label="counts of the rated speed in {signal.name}"
                  value={String(follows.full)}
                  take={(text) => /^[1-9]\d*$/.test(text.trim()) && set(role, { full: Number(text) })}
                />
              {/if}
            {/if}
          </td>
          <td class="py-0.5 pr-2 text-right font-mono">{raw ?? '–'}</td>
          <td class="py-0.5 text-right font-mono">{value ?? '–'}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
