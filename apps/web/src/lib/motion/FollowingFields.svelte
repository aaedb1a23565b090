<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import {
    codecOf,
    followingRoles,
    imagesOf,
    scalingOf,
    type Device,
    type DriveTrain,
    type Role,
  } from '@fadenkreuz/core';
  import FollowsEntry from './FollowsEntry.svelte';
  import { editFollows } from './trainEdits.js';

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
                onchange={(event) =>
                  editFollows(desk, device, train, role, event.currentTarget.checked ? {} : null)}
              />
              <span class="font-mono text-xs">{signal.scale?.factor ?? '1'} {signal.unit}</span>
            </label>
          </td>
          <td class="py-0.5 pr-2">
            <FollowsEntry {device} {train} {role} name={signal.name} />
          </td>
          <td class="py-0.5 pr-2 text-right font-mono">{raw ?? '–'}</td>
          <td class="py-0.5 text-right font-mono">{value ?? '–'}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
