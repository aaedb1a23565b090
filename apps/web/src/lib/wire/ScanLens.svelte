<script lang="ts">
  import {
    deviceFound,
    identityStatusText,
    indicatorText,
    kindOfText,
    lightsOf,
    maskOf,
    nextName,
    serialText,
    subnetOf,
    type Compared,
    type Cure,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { verdictTexts } from './verdictTexts.js';
  import type { WireWatch } from './wire.svelte.js';

  import RevisionInLibrary from '$lib/library/RevisionInLibrary.svelte';

  interface Props {
    line: Compared;
    wire: WireWatch;
    onignore: () => void;
    /** Something was changed on the wire. */
    onrepaired: () => void;
  }
  /** One line of the scan: planned beside found, and what can be done. */
  let { line, wire, onignore, onrepaired }: Props = $props();
  const desk = useDesk();

  const device = $derived(desk.cell.devices.find((d) => d.id === line.device));
  const found = $derived(line.found[0]);
  const { mark, word, tone } = $derived(verdictTexts[line.verdict]);
  const revision = (major: number | null, minor: number | null) =>
    major === null ? '' : `${major}.${minor}`;
  const rows = $derived([
    ['address', device?.address, found?.address],
    ['product', device?.identity.productName, found?.productName],
    ['vendor', device?.identity.vendor, found?.vendor ?? found?.maker],
    ['device type', device?.identity.deviceType, found?.deviceType],
    ['product code', device?.identity.productCode, found?.productCode],
    [
      'revision',
      device && revision(device.identity.majorRevision, device.identity.minorRevision),
      found && revision(found.majorRevision, found.minorRevision),
    ],
    [
      'serial',
      device?.serialNumber == null ? '' : serialText(device.serialNumber),
      found?.serialNumber == null ? '' : serialText(found.serialNumber),
    ],
    ['MAC', device?.mac, found?.mac],
    ['address from', '', found?.addressFrom === 'stored' ? 'its memory' : found?.addressFrom?.toUpperCase()],
  ] as const);

  const needsArm = (cure: Cure) => cure.do === 'set-address' || cure.do === 'stop-asking';

  /** What real devices get with Arm is said before, at the foot: there it is not given beside something else. */
  const armsHere = $derived(desk.running && !desk.armedElsewhere && !desk.bench?.links.some((l) => l.sends));
  /** Seconds that are enough to write an address and to find the device there. */
  const armFor = 30;

  async function act(cure: Cure) {
    if (needsArm(cure) && !desk.armed && !(await desk.arm(armFor))) return;
    if (cure.do === 'edit') desk.edit(cure.edit);
    else if (cure.do === 'add') {
      const name = nextName(desk.cell, kindOfText(cure.found.productName ?? '') ?? 'other');
      desk.edit({
        edit: 'device.add',
        device: deviceFound(cure.found, name, () => crypto.randomUUID()),
      });
    } else if (cure.do === 'stop-asking') {
      if (await wire.keep(cure.at)) onrepaired();
    } else {
      const { at, address } = cure;
      const { network } = desk.cell;
      const mask = maskOf(subnetOf(network, address) ?? network.subnet);
      if (await wire.setAddress({ at, address, mask, gateway: network.gateway })) onrepaired();
    }
  }
</script>

<h2 class="font-mono text-lg font-semibold break-words">{device?.name ?? found?.address ?? ''}</h2>
<p class={tone}>{mark} {word}</p>
<p class="mt-2">{line.finding.says} <span class="text-faint">{line.finding.cure}</span></p>

<div class="mt-3 flex flex-col items-start gap-2">
  {#each line.cures as cure, i (i)}
    <button
      class="btn btn-wrap btn-sm"
      disabled={wire.working !== undefined || (needsArm(cure) && !desk.armed && !armsHere)}
      onclick={() => act(cure)}
      >{needsArm(cure) && !desk.armed && armsHere ? `Arm for ${armFor} s: ${cure.title}` : cure.title}</button
    >
    {#if needsArm(cure) && !desk.armed && !armsHere}
      <p class="text-xs text-faint">Writes to the device: arm first.</p>
    {/if}
  {/each}
  {#if line.verdict !== 'right'}
    <button class="btn btn-sm" onclick={onignore}>Ignore</button>
  {/if}
</div>
{#if wire.working === 'address'}
  <p class="mt-2" role="status">The address is being set; the device is looked for where it comes back.</p>
{:else if wire.done.length > 0}
  <ul class="mt-2 text-faint" aria-label="done">
    {#each wire.done as step (step)}<li>✓ {step}</li>{/each}
  </ul>
{/if}

{#if line.verdict === 'wrong-revision' && device && found}
  <RevisionInLibrary {device} {found} />
{/if}

<!-- Addresses go on behind a point or a dash where they have no room. -->
{#snippet broken(value: string | number | null | undefined)}
  {#each String(value ?? '').split(/(?<=[.-])/) as part, i (i)}{part}<wbr />{/each}
{/snippet}

<h3 class="lens-heading">Planned, found</h3>
<table class="w-full text-xs">
  <tbody>
    {#each rows as [title, plan, wireSide] (title)}
      {@const differs =
        plan !== undefined && plan !== '' && wireSide != null && wireSide !== '' && plan !== wireSide}
      <tr class="border-b border-base-300 align-top">
        <th class="py-1 pr-1.5 text-left font-normal whitespace-nowrap text-faint">{title}</th>
        <td class="py-1 pr-2 font-mono wrap-anywhere">{@render broken(plan)}</td>
        <td class={['py-1 font-mono wrap-anywhere', differs && 'font-semibold text-error']}
          >{differs ? '≠ ' : ''}{@render broken(wireSide)}</td
        >
      </tr>
    {/each}
  </tbody>
</table>
{#if found?.status != null}
  <p class="mt-2 text-faint">It says: {identityStatusText(found.status)}.</p>
  <ul aria-label="its lights should show">
    {#each lightsOf(found) as light (light.name)}
      <li>{light.name} <span class="text-faint">{indicatorText(light)}</span></li>
    {/each}
  </ul>
{/if}
{#if found && found.at !== found.address}
  <p class="mt-1 text-xs text-faint">reached at <span class="font-mono">{found.at}:{found.port}</span></p>
{/if}
