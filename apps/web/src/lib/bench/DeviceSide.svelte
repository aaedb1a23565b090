<script lang="ts">
  import { codecOf, fieldAddress, imageById, sceneOf, type Device, type Link } from '@fadenkreuz/core';
  import type { LinkStatus } from '@fadenkreuz/field/agent-api';
  import CodeName from '$lib/controls/CodeName.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { fromBase64 } from '$lib/desk/liveBytes.js';
  import LiveFields from './LiveFields.svelte';
  import SideEntry from './SideEntry.svelte';
  import { outputsText } from './benchTexts.js';

  interface Props {
    device: Device;
    link: Link;
    status: LinkStatus | undefined;
  }
  /** A simulated device from its own side: what it shows is set here, what it was commanded is seen here. */
  let { device, link, status }: Props = $props();
  const desk = useDesk();

  const image = $derived(link.feedback);
  const codec = $derived(codecOf(image));
  const scene = $derived(sceneOf(desk.cell, imageById(desk.cell, image.id)));
  const seen = $derived.by(() => {
    const bytes = desk.bytes.get(image.id);
    if (!bytes || bytes.length < codec.bytes) return undefined;
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    return codec.signals.map((_, i) => ({
      text: codec.textAt(i),
      plain: codec.readingAt(i).text,
      on: codec.valueAt(i) === true,
    }));
  });
  const side = $derived(status?.side);
  const held = $derived(new Map(side?.held.map((h) => [h.field, h.value])));
  const commanded = $derived(status?.sideCommand ? fromBase64(status.sideCommand) : undefined);
</script>

{#if !side}
  <p class="text-faint">
    {status?.real ? 'A real device: its own side is at the device.' : 'The bench is stopped.'}
  </p>
{:else}
  <div class="grid grid-cols-[3fr_2fr] gap-6">
    <section aria-label="feedback, set on the device's side">
      <h2 class="mb-1 font-semibold text-feedback">◂ what the device shows</h2>
      <table class="w-full border-collapse text-sm">
        <thead>
          <tr class="text-left text-xs text-faint">
            <th class="py-1 font-normal">in the device</th>
            <th class="font-normal">name</th>
            <th class="font-normal">set by hand</th>
            <th class="text-right font-normal">the controller sees</th>
            <th class="pl-2 font-normal">at</th>
          </tr>
        </thead>
        <tbody>
          {#each codec.signals as signal, i (signal.id)}
            {@const address = fieldAddress(scene, signal)}
            <tr class="border-b border-base-300 align-top">
              <td class="py-1 pr-2 font-mono text-xs whitespace-nowrap text-faint">{address.device}</td>
              <td class="py-1 pr-2 font-mono"><CodeName name={signal.name} /></td>
              <td class="py-0.5">
                <SideEntry
                  deviceId={device.id}
                  {signal}
                  held={held.get(signal.id)}
                  on={seen?.[i]?.on ?? false}
                  plain={seen?.[i]?.plain ?? ''}
                />
              </td>
              <td class="py-1 text-right font-mono" data-seen={signal.name}>
                {#if signal.type === 'BOOL' && seen}<span aria-hidden="true">{seen[i]!.on ? '■' : '□'}</span
                  >{/if}
                {seen?.[i]?.text ?? '–'}
              </td>
              <td class="py-1 pl-2 font-mono text-xs whitespace-nowrap text-faint">{address.controller}</td>
            </tr>
          {:else}
            <tr><td class="py-2 text-faint" colspan="5">No fields yet: lay them out in the Sight.</td></tr>
          {/each}
        </tbody>
      </table>
    </section>
    <section aria-label="command, as the device has it">
      <p class="mb-1" role="status">{outputsText(side)}</p>
      <LiveFields {device} image={link.command} bytes={commanded} />
    </section>
  </div>
{/if}
