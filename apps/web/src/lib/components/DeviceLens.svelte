<script lang="ts">
  import { behaviours, imagesOf, type Device, type Image } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import CopyDevice from './CopyDevice.svelte';
  import FindingLine from './FindingLine.svelte';
  import LensEntry from './LensEntry.svelte';

  interface Props {
    device: Device;
    onremoved: () => void;
    oncopied: (id: string) => void;
  }
  let { device, onremoved, oncopied }: Props = $props();
  const desk = useDesk();

  const setDevice = (set: Record<string, unknown>) =>
    desk.edit({ edit: 'device.set', device: device.id, set });
  const setIdentity = (key: string) => (text: string) =>
    setDevice({
      identity: {
        ...device.identity,
        [key]: key === 'productName' ? text : Number(text.replace(/^16#/, '0x')),
      },
    });
  const status = $derived(desk.linkStatus(device.id));
  const findings = $derived(desk.findings.filter((f) => f.place.device === device.id));
  const identityRows = [
    ['vendor', 'vendor'],
    ['deviceType', 'device type'],
    ['productCode', 'product code'],
    ['majorRevision', 'revision, major'],
    ['minorRevision', 'revision, minor'],
    ['productName', 'product name'],
  ] as const;

  const setImage = (image: Image, key: 'instance' | 'size' | 'start') => (text: string) =>
    desk.edit({ edit: 'image.set', image: image.id, set: { [key]: Number(text) } });
</script>

<h2 class="font-mono text-lg font-semibold break-words">{device.name}</h2>
<p class="text-faint">{[device.kind, device.maker].filter(Boolean).join(' · ')}</p>

{#each findings as finding, i (i)}<FindingLine {finding} />{/each}

{#each device.links as link (link.id)}
  <h3 class="lens-heading">Link</h3>
  <div class="lens-row"><span>protocol</span><span>EtherNet/IP, exclusive owner</span></div>
  {#each imagesOf(link) as image (image.id)}
    {@const command = image.direction === 'command'}
    <div class={['mt-2 font-medium', command ? 'text-command' : 'text-feedback']}>
      {command ? '▸' : '◂'}
      {image.direction} image
      <span class="text-xs font-normal text-faint"
        >controller {command ? 'output' : 'input'}, device {command ? 'input' : 'output'}</span
      >
    </div>
    {#each [['instance', 'instance'], ['size', 'size, bytes'], ['start', 'controller start byte']] as const as [key, title] (key)}
      <LensEntry
        {title}
        class="w-20 font-mono"
        value={String(image[key])}
        label="{title} of the {image.direction} image"
        inputmode="numeric"
        take={setImage(image, key)}
      />
    {/each}
  {/each}
  <h3 class="lens-heading">Opening and loss</h3>
  <LensEntry
    title="configuration instance"
    class="w-20 font-mono"
    value={String(link.configuration.instance)}
    take={(text) =>
      desk.edit({
        edit: 'link.set',
        link: link.id,
        set: { configuration: { ...link.configuration, instance: Number(text) } },
      })}
  />
  <LensEntry
    title="configuration data"
    class="w-36 font-mono"
    value={link.configuration.data}
    placeholder="none"
    label="configuration data, hex"
    take={(text) =>
      desk.edit({
        edit: 'link.set',
        link: link.id,
        set: { configuration: { ...link.configuration, data: text.replace(/\s/g, '').toUpperCase() } },
      })}
  />
  <label class="lens-row">
    times out after
    <select
      class="inplace cursor-pointer font-mono"
      value={String(link.timeoutMultiplier)}
      onchange={(event) =>
        desk.edit({
          edit: 'link.set',
          link: link.id,
          set: { timeoutMultiplier: Number(event.currentTarget.value) as 4 },
        })}
    >
      {#each [4, 8, 16, 32, 64, 128, 256, 512] as n (n)}<option value={String(n)}
          >{n} × = {(n * link.feedbackRpi) / 1000} ms</option
        >{/each}
    </select>
  </label>
  <label class="lens-row">
    on loss the device
    <select
      class="inplace cursor-pointer"
      value={link.onLoss}
      onchange={(event) =>
        desk.edit({
          edit: 'link.set',
          link: link.id,
          set: { onLoss: event.currentTarget.value as 'drop' | 'hold' },
        })}
    >
      <option value="drop">drops its outputs</option>
      <option value="hold">holds the last state</option>
    </select>
  </label>
{/each}

<h3 class="lens-heading">Bench</h3>
<label class="lens-row">
  stand-in
  <select
    class="inplace min-w-0 cursor-pointer"
    value={device.standIn ?? ''}
    onchange={(event) => setDevice({ standIn: event.currentTarget.value || null })}
  >
    <option value="">none yet</option>
    {#each Object.entries(behaviours) as [id, { title }] (id)}<option value={id}>{title}</option>{/each}
  </select>
</label>

<h3 class="lens-heading">Planned identity</h3>
{#each identityRows as [key, title] (key)}
  <LensEntry
    {title}
    class={['font-mono', key === 'productName' ? 'w-44' : 'w-20']}
    value={String(device.identity[key])}
    label={title}
    take={setIdentity(key)}
  />
{/each}

<h3 class="lens-heading">Place</h3>
<LensEntry title="serves" class="w-52" value={device.serves} take={(serves) => setDevice({ serves })} />
<LensEntry title="maker" class="w-44" value={device.maker} take={(maker) => setDevice({ maker })} />

<label class="lens-row">
  byte order is a setting of the device
  <input
    type="checkbox"
    class="checkbox checkbox-sm"
    checked={device.orderSelectable}
    onchange={(event) => setDevice({ orderSelectable: event.currentTarget.checked })}
  />
</label>

<CopyDevice {device} {oncopied} />

<button
  class="btn mt-6 block btn-sm"
  disabled={status?.state === 'open'}
  title={status?.state === 'open' ? 'Stop the bench first' : 'Undo brings it back'}
  onclick={() => desk.edit({ edit: 'device.remove', device: device.id }) && onremoved()}
  >Remove this device</button
>
