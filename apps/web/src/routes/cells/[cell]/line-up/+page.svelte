<script lang="ts">
  import DeviceLens from '$components/DeviceLens.svelte';
  import InPlace from '$components/InPlace.svelte';
  import LineUpTable from '$components/LineUpTable.svelte';
  import NewDeviceForm from '$components/NewDeviceForm.svelte';
  import View from '$components/View.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import Plus from '@lucide/svelte/icons/plus';

  const desk = useDesk();
  let chosen = $state<string | undefined>(desk.cell.devices[0]?.id);
  let adding = $state(false);
  const device = $derived(desk.cell.devices.find((d) => d.id === chosen));
</script>

<View lensTitle="Device">
  {#snippet main()}
    <div class="mb-3 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Line-up</h1>
      <span class="text-faint">subnet</span>
      <InPlace
        class="w-44 font-mono"
        value={desk.cell.network.subnet}
        label="subnet"
        take={(subnet) => desk.edit({ edit: 'network.set', set: { subnet } })}
      />
      <button class="btn ml-auto btn-sm" onclick={() => (adding = true)}
        ><Plus size={15} aria-hidden="true" />Add device</button
      >
    </div>
    <LineUpTable {chosen} onchoose={(id) => ((chosen = id), (adding = false))} />
  {/snippet}
  {#snippet lens()}
    {#if adding}
      <NewDeviceForm ondone={(id) => ((chosen = id), (adding = false))} oncancel={() => (adding = false)} />
    {:else if device}
      {#key device.id}<DeviceLens
          {device}
          onremoved={() => (chosen = desk.cell.devices[0]?.id)}
          oncopied={(id) => (chosen = id)}
        />{/key}
    {:else}
      <p class="text-faint">Choose a device, or add one.</p>
    {/if}
  {/snippet}
</View>
