<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    identifierOf,
    imagesOf,
    lightsText,
    readLights,
    serialText,
    type Device,
    type EditOf,
  } from '@fadenkreuz/core';
  import { tableDescriberOf, writersFor, writeTableDescriber } from '@fadenkreuz/core/describers';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { saveText } from '$lib/controls/saveText.js';
  import CopyDevice from './CopyDevice.svelte';
  import { targetOf } from '$lib/frame/find.js';
  import { follow } from '$lib/frame/follow.js';
  import FindingLine from '$lib/controls/FindingLine.svelte';
  import KeepDescriber from '$lib/controls/KeepDescriber.svelte';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import LimitEntries from '$lib/controls/LimitEntries.svelte';
  import WhatStopsIt from '$lib/beam/WhatStopsIt.svelte';
  import LinkForm from './LinkForm.svelte';
  import { namesOnTheWire } from './protocols/list.js';

  interface Props {
    device: Device;
    oncopied: (id: string) => void;
  }
  let { device, oncopied }: Props = $props();
  const desk = useDesk();

  const setDevice = (set: EditOf<'device.set'>['set']) =>
    desk.edit({ edit: 'device.set', device: device.id, set });
  const describe = (set: EditOf<'description.set'>['set']) =>
    desk.edit({ edit: 'description.set', device: device.id, set });
  const setIdentity = (key: string) => (text: string) =>
    setDevice({
      identity: {
        ...device.identity,
        [key]: key === 'productName' ? text : Number(text.replace(/^16#/, '0x')),
      },
    });
  const fileName = $derived(identifierOf(device.name));
  const ownText = () => writeTableDescriber(tableDescriberOf(device));
  const status = $derived(desk.linkStatus(device.id));
  const findings = $derived(desk.findings.filter((f) => f.place.device === device.id));
  function setLights(text: string): boolean {
    const { lights, bad } = readLights(text);
    if (bad.length === 0) return describe({ lights });
    desk.note = {
      says: `${bad[0]} does not say what a light shows.`,
      cure: 'Write a line each: module: flashing green = calibration is open. A light is off, steady, flashing, alternating, or gives a number of pulses.',
    };
    return false;
  }
  const identityRows = [
    ['vendor', 'vendor'],
    ['deviceType', 'device type'],
    ['productCode', 'product code'],
    ['majorRevision', 'revision, major'],
    ['minorRevision', 'revision, minor'],
    ['productName', 'product name'],
  ] as const;
</script>

<h2 class="font-mono text-lg font-semibold break-words">{device.name}</h2>
<p class="text-faint">{[device.kind, device.maker].filter(Boolean).join(' · ')}</p>

{#each findings as finding, i (i)}
  {@const target = targetOf(finding, desk.cell)}
  <FindingLine
    {finding}
    {...target?.to === 'view' ? { showTitle: 'Look on the wire', onshow: () => follow(desk, target) } : {}}
  />
{/each}

{#if desk.running && status && status.state !== 'no-stand-in'}<WhatStopsIt {device} />{/if}

{#each device.links as link (link.id)}
  <LinkForm {device} {link} />
{/each}

<LensSection title="Laid out">
  {#each device.links.flatMap(imagesOf) as image (image.id)}
    {@const command = image.direction === 'command'}
    <div class="lens-row">
      <span class={command ? 'text-command' : 'text-feedback'}>{command ? '▸' : '◂'} data map</span>
      <a
        class="link"
        href="/cells/{desk.cell.id}/sight/table"
        onclick={() => (desk.crosshair = { image: image.id, bit: 0 })}>{image.fields.length} fields</a
      >
    </div>
  {/each}
  <div class="lens-row">
    <span>parameters</span>
    <a class="link" href="/cells/{desk.cell.id}/parameters?device={device.id}"
      >{device.description.parameters.length || 'none yet'}</a
    >
  </div>
</LensSection>

<LensSection title="Lights" open={false} brief="{device.description.lights.length} lines">
  <label class="my-1 flex flex-col text-faint">
    what its lights say in this revision
    <textarea
      class="textarea min-h-0 w-full text-base-content textarea-xs"
      rows={device.description.lights.length + 2}
      value={lightsText(device.description.lights)}
      placeholder="module: flashing green = calibration is open"
      onchange={({ currentTarget }) => {
        if (!setLights(currentTarget.value)) currentTarget.value = lightsText(device.description.lights);
      }}></textarea>
  </label>
</LensSection>

<LensSection
  title="Bench"
  open={false}
  brief={device.simulated ? 'simulated' : 'real where it can be reached'}
>
  <label class="lens-row" title="also where a real one can be reached at its address">
    simulated on the bench
    <input
      type="checkbox"
      class="toggle toggle-xs"
      checked={device.simulated}
      onchange={(event) => setDevice({ simulated: event.currentTarget.checked })}
    />
  </label>
</LensSection>

<LensSection title="Planned identity" open={false} brief={device.identity.productName}>
  {#each identityRows as [key, title] (key)}
    <LensEntry
      {title}
      class={['font-mono', key === 'productName' ? 'w-44' : 'w-20']}
      value={String(device.identity[key])}
      label={title}
      take={setIdentity(key)}
    />
  {/each}
</LensSection>

<LensSection title="Place and limits" open={false} brief={device.serves}>
  <LensEntry
    title="serves"
    wraps
    class="w-52"
    value={device.serves}
    take={(serves) => setDevice({ serves })}
  />
  <LensEntry title="maker" wraps class="w-44" value={device.maker} take={(maker) => setDevice({ maker })} />

  <LensEntry
    title="order number"
    class="w-44 font-mono"
    value={device.orderNumber}
    take={(orderNumber) => setDevice({ orderNumber: orderNumber.trim() })}
  />
  <LensEntry
    title="factory address"
    class="w-36 font-mono"
    value={device.factoryAddress ?? ''}
    placeholder="not known"
    take={(text) => setDevice({ factoryAddress: text.trim() || null })}
  />
  {#each namesOnTheWire(device.links) as { title, says, of } (title)}
    <div class="lens-row" title={says}>
      <span>{title}</span><span class="min-w-0 font-mono wrap-anywhere">{of(device.name)}</span>
    </div>
  {/each}
  {#if device.mac || device.serialNumber !== null}
    <div class="lens-row">
      <span>MAC</span><span class="font-mono">{device.mac}</span>
    </div>
    <div class="lens-row">
      <span>serial number</span><span class="font-mono">{serialText(device.serialNumber)}</span>
    </div>
  {/if}
  <LimitEntries limits={device.description.limits} take={(limits) => describe({ limits })} />

  <label class="lens-row">
    byte order is a setting of the device
    <input
      type="checkbox"
      class="checkbox checkbox-sm"
      checked={device.orderSelectable}
      onchange={(event) => setDevice({ orderSelectable: event.currentTarget.checked })}
    />
  </label>
</LensSection>

<CopyDevice {device} {oncopied} />

<LensSection title="Files" open={false} brief="downloads, library">
  <div class="mt-4 flex flex-wrap gap-2">
    {#each writersFor(device) as { title, says, extension, mime, text } (title)}
      <button
        class="btn btn-sm"
        title={says}
        onclick={() => saveText(`${fileName}.${extension}`, text(device), mime)}>Download {title}</button
      >
    {/each}
  </div>
  <KeepDescriber file={() => new File([ownText()], `${fileName}.describer.json`)} />
</LensSection>

<button
  class="btn mt-6 block btn-sm"
  disabled={status?.state === 'open'}
  title={status?.state === 'open' ? 'Stop the bench first' : 'Undo brings it back'}
  onclick={() => desk.edit({ edit: 'device.remove', device: device.id })}>Remove this device</button
>
