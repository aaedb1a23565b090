<script lang="ts">
  import { serialText, type Compared, type Found } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { verdictTexts } from './verdictTexts.js';

  interface Props {
    lines: readonly Compared[];
    /** Answers are still coming: what has not answered yet is not missing. */
    running: boolean;
    chosen: Compared | undefined;
    onchoose: (index: number) => void;
  }
  /** What stands on the wire against what was planned, a line each. */
  let { lines, running, chosen, onchoose }: Props = $props();
  const desk = useDesk();
  /** A device says its maker by a number; whoever of the plan has the same one knows the name. */
  const makerOf = ({ maker, vendor }: Found) =>
    desk.cell.devices.find((d) => d.identity.vendor === vendor && d.maker)?.maker ??
    maker ??
    (vendor === null ? '' : `vendor ${vendor}`);
  const planned = (line: Compared) => desk.cell.devices.find((d) => d.id === line.device);
</script>

<table class="w-full border-collapse">
  <thead>
    <tr class="border-b border-base-content/60 text-left text-xs text-faint">
      <th class="py-1.5 pl-2 font-medium">planned</th>
      <th class="font-medium">found at</th>
      <th class="font-medium">product</th>
      <th class="font-medium">revision</th>
      <th class="font-medium">serial number</th>
      <th class="pl-3 font-medium">state</th>
    </tr>
  </thead>
  <tbody>
    {#each lines as line, i (`${line.device ?? ''}${line.found[0]?.at ?? ''}${line.found[0]?.serialNumber ?? ''}`)}
      {@const device = planned(line)}
      {@const [found] = line.found}
      {@const waiting = running && line.verdict === 'missing'}
      {@const { mark, word, tone } = verdictTexts[line.verdict]}
      <tr
        class={['border-b border-base-300', line === chosen ? 'bg-base-100' : 'hover:bg-base-100/60']}
        aria-selected={line === chosen}
        onclick={() => onchoose(i)}
      >
        <td class="py-1.5 pl-2">
          <button class="cursor-pointer text-left" onclick={() => onchoose(i)}>
            {#if device}
              <span class="font-mono font-semibold">{device.name}</span>
              <span class="block font-mono text-xs text-faint">{device.address}</span>
            {:else}
              <span class="text-faint">nothing</span>
            {/if}
          </button>
        </td>
        <td class="font-mono">{found?.address ?? ''}</td>
        <td class="max-w-44 min-w-0 wrap-anywhere" title={found?.productName}
          >{found?.productName ?? ''}<span class="block text-xs text-faint"
            >{found ? makerOf(found) : ''}</span
          ></td
        >
        <td class="font-mono"
          >{found && found.majorRevision !== null ? `${found.majorRevision}.${found.minorRevision}` : ''}</td
        >
        <td class="font-mono">{found && found.serialNumber !== null ? serialText(found.serialNumber) : ''}</td
        >
        <td class="pl-3 whitespace-nowrap">
          {#if waiting}<span class="text-faint">○ no answer yet</span>
          {:else}<span class={tone}>{mark} {word}</span>{/if}
        </td>
      </tr>
    {/each}
  </tbody>
</table>
