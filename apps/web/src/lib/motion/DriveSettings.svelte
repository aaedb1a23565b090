<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { driveSettings, type Device, type DriveTrain } from '@fadenkreuz/core';

  /**
   * What follows from the train for the parameters of the drive: planned here, compared and written under Parameters.
   */
  let { device, train }: { device: Device; train: DriveTrain } = $props();
  const desk = useDesk();

  const settings = $derived(driveSettings(train, device.description.parameters));
  const open = $derived(settings.filter(({ parameter, value }) => parameter.planned !== value));
  const labelled = (value: string, labels: readonly { value: number; text: string }[]) => {
    const text = labels.find((l) => String(l.value) === value)?.text;
    return text ? `${value} · ${text}` : value;
  };

  function plan() {
    desk.edit({
      ...{ edit: 'parameters.arrange', device: device.id, title: 'plan what follows from the drive train' },
      parameters: open.map(({ parameter, value }) => ({ ...parameter, planned: value })),
      removed: [],
    });
  }
</script>

{#if settings.length === 0}
  <p class="text-sm text-faint">No parameter of this device has a role that follows from a drive train.</p>
{:else}
  <table class="w-full border-collapse text-sm" aria-label="what follows for the drive">
    <thead>
      <tr class="border-b border-base-content text-left text-xs text-faint">
        <th class="py-1 pr-2 font-normal">parameter</th>
        <th class="py-1 pr-2 text-right font-normal">planned</th>
        <th class="py-1 pr-2 text-right font-normal">follows</th>
        <th class="py-1 font-normal">because</th>
      </tr>
    </thead>
    <tbody>
      {#each settings as { parameter, value, reason } (parameter.id)}
        <tr class="border-b border-base-300">
          <td class="py-0.5 pr-2">
            <span class="font-mono text-xs text-faint">{parameter.code}</span>
            {parameter.name}
          </td>
          <td class="py-0.5 pr-2 text-right font-mono">{parameter.planned ?? '–'}</td>
          <td
            class={['py-0.5 pr-2 text-right font-mono', parameter.planned !== value && 'font-semibold']}
            data-follows={parameter.name}
            >{parameter.planned !== value ? '≠ ' : ''}{labelled(value, parameter.labels)}
            {parameter.unit}</td
          >
          <td class="py-0.5 text-faint">{reason}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  <div class="mt-1 flex items-center gap-3">
    <button class="btn btn-sm" disabled={open.length === 0} onclick={plan}>
      {open.length === 0 ? 'All are planned' : `Plan these ${open.length}`}
    </button>
    <a class="link text-sm" href="/cells/{desk.cell.id}/parameters">Compare, write and save them</a>
  </div>
{/if}
