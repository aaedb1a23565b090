<script lang="ts">
  import { deviceKinds, type Device, type Link } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import InPlace from './InPlace.svelte';
  import LinkStateMark from './LinkStateMark.svelte';

  let { chosen, onchoose }: { chosen: string | undefined; onchoose: (id: string) => void } = $props();
  const desk = useDesk();

  const set = (device: Device, key: 'name' | 'designation' | 'address') => (text: string) =>
    desk.edit({ edit: 'device.set', device: device.id, set: { [key]: text.trim() } });

  function setUpdate(device: Device, text: string): boolean {
    const us = Math.round(Number(text.replace(',', '.')) * 1000);
    const [link] = device.links;
    if (!link) return false;
    // The blocks of a Modbus link have their own poll times; here all of them are set, in the lens one by one.
    const blocks = link.blocks.map((block) => ({ ...block, poll: us }));
    const set = link.protocol === 'modbus-tcp' ? { blocks } : { commandRpi: us, feedbackRpi: us };
    return desk.edit({ edit: 'link.set', link: link.id, set });
  }
  /** The shortest time between two packets or questions, µs. */
  const updateOf = (link: Link) =>
    link.blocks.length > 0 && link.protocol === 'modbus-tcp'
      ? Math.min(...link.blocks.map((b) => b.poll))
      : link.feedbackRpi;
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
  <tbody>
    {#each desk.cell.devices as device (device.id)}
      {@const [link] = device.links}
      {@const wrong = findingsOf(device)}
      <tr
        class={['border-b border-base-300', chosen === device.id ? 'bg-base-100' : 'hover:bg-base-100/60']}
        onclick={() => onchoose(device.id)}
        onfocusin={() => onchoose(device.id)}
        aria-selected={chosen === device.id}
      >
        <td class="py-1 pl-1">
          <InPlace
            class="w-[152px] font-mono font-semibold"
            value={device.name}
            label="name of {device.name}"
            take={set(device, 'name')}
          />
        </td>
        <td>
          <InPlace
            class="w-[104px] font-mono"
            value={device.designation}
            label="designation of {device.name}"
            take={set(device, 'designation')}
          />
        </td>
        <td>
          <select
            class="inplace w-[158px] cursor-pointer"
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
          <LinkStateMark status={desk.linkStatus(device.id)} hasStandIn={device.standIn !== null} />
          {#if wrong}<span title="{wrong} findings" class="ml-1 font-mono text-error">△{wrong}</span>{/if}
        </td>
      </tr>
    {/each}
    <tr
      class={['border-b border-base-300', chosen === 'controller' ? 'bg-base-100' : 'hover:bg-base-100/60']}
      onclick={() => onchoose('controller')}
      aria-selected={chosen === 'controller'}
    >
      <td class="py-1 pl-1">
        <InPlace
          class="w-[152px] font-mono font-semibold"
          value={desk.cell.controller.name}
          label="name of the controller"
          take={(name) => desk.edit({ edit: 'controller.set', set: { name } })}
        />
      </td>
      <td>
        <InPlace
          class="w-[104px] font-mono"
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
        <button class="cursor-pointer" aria-label="show {desk.cell.controller.name} in the lens"
          >◎ {desk.running ? (desk.bench?.bench?.run ? 'runs' : 'idle') : 'bench off'}</button
        >
      </td>
    </tr>
  </tbody>
</table>
