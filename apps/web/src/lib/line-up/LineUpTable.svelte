<script lang="ts">
  import { deviceKinds, protocolOf, withUpdate, type Device, type Link } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { dragHandle, dragHandleZone, type DndEvent } from 'svelte-dnd-action';
  import InPlace from '$lib/controls/InPlace.svelte';
  import StopMark from '$lib/beam/StopMark.svelte';
  import LinkStateMark from '$lib/bench/LinkStateMark.svelte';

  interface Props {
    chosen: string | undefined;
    onchoose: (id: string) => void;
    /** Words that a device must have somewhere to be shown. */
    filter?: string;
  }
  let { chosen, onchoose, filter = '' }: Props = $props();
  const desk = useDesk();

  const set = (device: Device, key: 'name' | 'designation' | 'address') => (text: string) =>
    desk.edit({ edit: 'device.set', device: device.id, set: { [key]: text.trim() } });

  function setUpdate(device: Device, text: string): boolean {
    const us = Math.round(Number(text.replace(',', '.')) * 1000);
    const [link] = device.links;
    if (!link) return false;
    // Parts of a link with times of their own are all set here, in the lens one by one.
    return desk.edit({ edit: 'link.set', link: link.id, set: withUpdate(link, us) });
  }
  /** The shortest time between two packets or questions, µs. */
  const updateOf = (link: Link) => protocolOf(link).times(link).quickestMs * 1000;
  const words = $derived(filter.toLowerCase().split(/\s+/).filter(Boolean));
  const shown = $derived(
    words.length === 0
      ? desk.cell.devices
      : desk.cell.devices.filter((d) => {
          const text = [d.name, d.designation, d.kind, d.maker, d.address, d.orderNumber, d.serves]
            .join(' ')
            .toLowerCase();
          return words.every((word) => text.includes(word));
        }),
  );

  /** Alt with an arrow moves a device up or down in the line-up. */
  function reorder(event: KeyboardEvent, device: Device) {
    const by = event.altKey ? ({ ArrowUp: -1, ArrowDown: 1 }[event.key] ?? 0) : 0;
    const to = desk.cell.devices.indexOf(device) + by;
    if (by === 0 || to < 0 || to >= desk.cell.devices.length) return;
    event.preventDefault();
    desk.edit({ edit: 'device.move', device: device.id, to });
  }
  /** The order while a device is dragged. */
  let dragged = $state.raw<Device[] | undefined>();
  const rows = $derived(dragged ?? shown);
  const filtered = $derived(words.length > 0);
  function drop({ detail }: CustomEvent<DndEvent<Device>>) {
    const { items, info } = detail;
    dragged = undefined;
    const moved = items.findIndex((d) => d.id === info.id);
    const before = shown.findIndex((d) => d.id === info.id);
    if (moved < 0 || moved === before) return;
    desk.edit({ edit: 'device.move', device: info.id, to: moved });
  }
  const findingsOf = (device: Device) =>
    desk.findings.filter((f) => f.place.device === device.id && f.severity !== 'notice').length;
</script>

<table class="w-full border-collapse">
  <thead>
    <tr class="border-b border-base-content/60 text-left text-xs text-faint">
      <th class="py-1.5 pl-2 font-medium">name</th>
      <th class="font-medium">designation</th>
      <th class="font-medium">kind</th>
      <th class="font-medium">address</th>
      <th class="font-medium">images</th>
      <th class="pr-1 text-right font-medium">update, ms</th>
      <th class="pl-3 font-medium">state</th>
    </tr>
  </thead>
  <tbody
    use:dragHandleZone={{
      items: rows,
      flipDurationMs: 0,
      dragDisabled: filtered,
      dropTargetStyle: {},
      zoneTabIndex: -1,
      autoAriaDisabled: true,
    }}
    onconsider={({ detail }: CustomEvent<DndEvent<Device>>) => (dragged = detail.items)}
    onfinalize={drop}
  >
    {#each rows as device (device.id)}
      {@const [link] = device.links}
      {@const wrong = findingsOf(device)}
      {@const status = desk.linkStatus(device.id)}
      <tr
        class={['border-b border-base-300', chosen === device.id ? 'bg-base-100' : 'hover:bg-base-100/60']}
        onclick={() => onchoose(device.id)}
        onfocusin={() => onchoose(device.id)}
        onkeydown={(event) => reorder(event, device)}
        aria-selected={chosen === device.id}
      >
        <td class="py-1 pl-1 whitespace-nowrap">
          <span
            class={[
              'inline-grid size-[24px] place-items-center text-faint select-none',
              filtered && 'invisible',
            ]}
            use:dragHandle
            aria-label="drag {device.name} to another place, or press Alt with an arrow">⋮</span
          >
          <InPlace
            wraps
            class="inline-block w-[158px] align-middle font-mono font-semibold"
            value={device.name}
            label="name of {device.name}"
            take={set(device, 'name')}
          />
        </td>
        <td>
          <InPlace
            class="w-[98px] font-mono"
            value={device.designation}
            label="designation of {device.name}"
            take={set(device, 'designation')}
          />
        </td>
        <td>
          <select
            class="inplace w-[162px] cursor-pointer"
            aria-label="kind of {device.name}"
            value={device.kind}
            onchange={(event) =>
              desk.edit({
                edit: 'device.set',
                device: device.id,
                set: { kind: event.currentTarget.value as Device['kind'] },
              })}
          >
            {#each deviceKinds as kind (kind)}<option>{kind}</option>{/each}
          </select>
        </td>
        <td>
          <InPlace
            class="w-[126px] font-mono"
            value={device.address}
            label="address of {device.name}"
            take={set(device, 'address')}
          />
        </td>
        <td class="font-mono whitespace-nowrap">
          {#if link}
            <span class="text-command" title="command image">▸{link.command.size} B</span>
            <span class="ml-1 text-feedback" title="feedback image">◂{link.feedback.size} B</span>
          {/if}
        </td>
        <td class="text-right">
          {#if link}
            <InPlace
              class="w-16 text-right font-mono"
              value={String(updateOf(link) / 1000)}
              label="update time of {device.name} in ms"
              inputmode="decimal"
              take={(text) => setUpdate(device, text)}
            />
          {/if}
        </td>
        <td class="pl-3 whitespace-nowrap">
          <LinkStateMark {status} />
          {#if status?.state === 'open' && status.stops}<StopMark stops={status.stops} brief />{/if}
          {#if wrong}<span title="{wrong} findings" class="ml-1 font-mono text-error">△{wrong}</span>{/if}
        </td>
      </tr>
    {/each}
  </tbody>
  <tbody>
    <tr
      class={['border-b border-base-300', chosen === 'controller' ? 'bg-base-100' : 'hover:bg-base-100/60']}
      onclick={() => onchoose('controller')}
      aria-selected={chosen === 'controller'}
    >
      <td class="py-1 pl-1">
        <InPlace
          wraps
          class="w-[152px] font-mono font-semibold"
          value={desk.cell.controller.name}
          label="name of the controller"
          take={(name) => desk.edit({ edit: 'controller.set', set: { name } })}
        />
      </td>
      <td>
        <InPlace
          class="w-[98px] font-mono"
          value={desk.cell.controller.designation}
          label="designation of the controller"
          take={(designation) => desk.edit({ edit: 'controller.set', set: { designation } })}
        />
      </td>
      <td class="px-1">controller</td>
      <td>
        <InPlace
          class="w-[126px] font-mono"
          value={desk.cell.controller.address}
          label="address of the controller"
          take={(address) => desk.edit({ edit: 'controller.set', set: { address } })}
        />
      </td>
      <td colspan="2" class="px-1 text-faint">
        <select
          class="inplace cursor-pointer font-mono"
          aria-label="element width of the controller"
          value={String(desk.cell.controller.elementBits)}
          onchange={(event) =>
            desk.edit({
              edit: 'controller.set',
              set: { elementBits: Number(event.currentTarget.value) as 8 | 16 | 32 },
            })}
        >
          {#each [8, 16, 32] as bits (bits)}<option value={String(bits)}>{bits}-bit elements</option>{/each}
        </select>
      </td>
      <td class="pl-3">
        <button class="cursor-pointer"
          >◎ {desk.running ? (desk.bench?.bench?.run ? 'runs' : 'idle') : 'bench off'}<span class="sr-only"
            >: show {desk.cell.controller.name} in the lens</span
          ></button
        >
      </td>
    </tr>
  </tbody>
</table>
