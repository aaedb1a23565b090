<script lang="ts">
  import { hexOf, ParameterCodec, type Device } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** What the device itself can be told: to save its values, to start anew; steps of their own, with what they cost. */
  let { device }: { device: Device } = $props();
  const desk = useDesk();
  const commands = $derived(
    device.description.parameters.flatMap((parameter) =>
      parameter.role?.is === 'device command'
        ? parameter.labels.filter((l) => l.value !== 0).map((label) => ({ parameter, label }))
        : [],
    ),
  );
  /** Values that the next loss of power would take. */
  const unsaved = $derived(device.description.parameters.filter((p) => p.retained === 'after saving').length);
  const costs = (text: string) =>
    /restart|reset|reboot/i.test(text)
      ? 'Its connection is lost until it stands again; outputs do what they do on loss, and unsaved values are gone.'
      : `It takes its memory’s time; ${unsaved} of its values outlast a loss of power only so.`;

  function tell({ parameter, label }: (typeof commands)[number]) {
    const bytes = hexOf(new ParameterCodec(parameter).written(String(label.value)));
    void desk.parameters.write(device.id, [{ parameter: parameter.id, bytes, why: 'value' }]);
  }
</script>

{#each commands as command (`${command.parameter.id} ${command.label.value}`)}
  <div class="border-b border-base-300 py-1.5 last:border-0">
    <button
      class="btn btn-sm"
      disabled={!desk.armed}
      title={desk.armed ? undefined : 'Writes to the device: arm first.'}
      onclick={() => tell(command)}>{command.label.text}</button
    >
    <p class="mt-0.5 text-xs text-faint">{costs(command.label.text)}</p>
  </div>
{/each}
