<script lang="ts">
  import { codecOf, firstOpen, portLights, portRings, type Device, type PortDevice } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import PortRulesForm from './PortRulesForm.svelte';

  /** What is planned at the ports of an IO-Link master, and why one is green and dead. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();

  /** Whether the master says in its images that the data of a port are valid. */
  function valid({ port }: PortDevice): boolean | undefined {
    for (const { feedback } of device.links) {
      const codec = codecOf(feedback);
      const at = codec.signals.findIndex(
        ({ role }) => role?.is === 'port valid' && (role.number ?? 1) === port,
      );
      const bytes = desk.bytes.get(feedback.id);
      if (at < 0 || !bytes || bytes.length < codec.bytes) continue;
      codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
      return codec.numbers[at] === 1;
    }
    return undefined;
  }
  const ports = $derived.by(() => {
    const read = desk.parameters.readOf(device.id);
    return device.description.ports.map((held) => {
      const rings = portRings(device, held, { read, valid: valid(held) });
      return { held, rings, open: firstOpen(rings) };
    });
  });
  $effect(() => {
    desk.live.show(
      'ports',
      device.links.map((link) => link.id),
    );
    return () => desk.live.show('ports', []);
  });
  /** Revision by revision: a light may have said something else before. */
  const lightsOf = (port: number) => portLights(device, port);
  const marks = { closed: '✓', open: '✗', unknown: '?' } as const;
</script>

{#each ports as { held, rings, open } (held.port)}
  <details class="border-b border-base-300 py-1.5">
    <summary class="cursor-pointer"
      ><span class="font-mono">{held.port}</span>
      <span class="font-semibold">{held.name}</span>
      <span class={['text-xs', open ? 'text-error' : 'text-faint']}
        >{open
          ? open.title
          : rings.every((r) => r.state === 'closed')
            ? 'in order'
            : 'not all of it is known'}</span
      ></summary
    >
    <ol class="mt-1 text-xs" aria-label="port {held.port}">
      {#each rings as ring (ring.title)}
        <li class={['flex gap-1.5 py-0.5', ring.state === 'unknown' && 'text-faint']}>
          <span class={['font-mono', ring.state === 'open' && 'text-error']} aria-hidden="true"
            >{marks[ring.state]}</span
          >
          <span class="min-w-0"
            ><span class="sr-only">{ring.state}:</span>
            {ring.title}: <span class={ring.state === 'open' ? '' : 'text-faint'}>{ring.says}</span>
            {#if ring === open && ring.fix}
              {@const { fix } = ring}
              <button class="btn mt-1 btn-xs" onclick={() => desk.edit(fix.edit as never)}>{fix.title}</button
              >
            {/if}</span
          >
        </li>
      {/each}
    </ol>
    {#if lightsOf(held.port).length > 0}
      <ul class="mt-1 text-xs" aria-label="what the light of port {held.port} says">
        {#each lightsOf(held.port) as { text, now } (text)}
          <li class={now ? '' : 'text-faint'}>{now ? '▸' : '·'} {text}{now ? '' : ' (another firmware)'}</li>
        {/each}
      </ul>
    {/if}
    <div class="mt-1 flex gap-1">
      <button
        class="btn btn-sm"
        disabled={!desk.running}
        title={desk.running ? undefined : 'The bench does not run.'}
        onclick={() =>
          desk.parameters.read(
            device.id,
            rings.flatMap((r) => r.reads ?? []),
          )}>Read what says it</button
      >
      <button
        class="btn btn-sm"
        onclick={() => desk.edit({ edit: 'port.set', device: device.id, port: held.port, holds: null })}
        >Unplug</button
      >
    </div>
  </details>
{:else}
  <p class="text-xs text-faint">
    Nothing is planned at a port. Open the IODD of a device in the Library and put it at a port.
  </p>
{/each}
<PortRulesForm {device} />
