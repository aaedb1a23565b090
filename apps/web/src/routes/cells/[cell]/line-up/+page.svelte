<script lang="ts">
  import ControllerLens from '$lib/line-up/ControllerLens.svelte';
  import DescriberForm from '$lib/library/DescriberForm.svelte';
  import DeviceLens from '$lib/line-up/DeviceLens.svelte';
  import KeepDescriber from '$lib/controls/KeepDescriber.svelte';
  import LineUpLinks from '$lib/line-up/LineUpLinks.svelte';
  import LineUpTable from '$lib/line-up/LineUpTable.svelte';
  import LineUpTotals from '$lib/line-up/LineUpTotals.svelte';
  import NewDeviceForm from '$lib/line-up/NewDeviceForm.svelte';
  import View from '$lib/frame/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import FileText from '@lucide/svelte/icons/file-text';
  import Plus from '@lucide/svelte/icons/plus';

  const desk = useDesk();
  /** The controller's line is no device. */
  let atController = $state(false);
  const chosen = $derived(atController ? 'controller' : desk.chosen?.id);
  let adding = $state(false);
  let filter = $state('');
  let file = $state.raw<File>();

  function show(id: string) {
    atController = id === 'controller';
    if (!atController) desk.choose(id);
    adding = false;
    file = undefined;
  }
  const device = $derived(desk.cell.devices.find((d) => d.id === chosen));
</script>

<View lensTitle="Device">
  {#snippet main()}
    <div class="mb-3 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Line-up</h1>
      <LineUpLinks here="" />
      <input
        class="input ml-auto w-36 input-sm"
        type="search"
        placeholder="filter"
        aria-label="filter the devices"
        bind:value={filter}
      />
      <label class="btn btn-sm focus-within:outline-2"
        ><FileText size={15} aria-hidden="true" />From a file<input
          type="file"
          class="sr-only"
          accept=".eds,.txt,.xml,.zip,.json"
          onchange={({ currentTarget }) => {
            file = currentTarget.files?.[0];
            currentTarget.value = '';
          }}
        /></label
      >
      <button class="btn btn-sm" onclick={() => ((adding = true), (file = undefined))}
        ><Plus size={15} aria-hidden="true" />Add device</button
      >
    </div>
    <LineUpTable {chosen} {filter} onchoose={show} />
    <LineUpTotals onchoose={show} />
  {/snippet}
  {#snippet lens()}
    {#if file}
      <DescriberForm {file} ondone={show} oncancel={() => (file = undefined)}>
        {#snippet actions()}{#if file}{@const kept = file}<KeepDescriber file={() => kept} />{/if}{/snippet}
      </DescriberForm>
    {:else if adding}
      <NewDeviceForm ondone={show} oncancel={() => (adding = false)} />
    {:else if device}
      {#key device.id}<DeviceLens {device} oncopied={show} />{/key}
    {:else if chosen === 'controller'}
      <ControllerLens />
    {:else}
      <p class="text-faint">Choose a device, or add one.</p>
    {/if}
  {/snippet}
</View>
