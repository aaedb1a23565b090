<script lang="ts">
  import type { Device, Found } from '@fadenkreuz/core';
  import { changesForDevice, type FactChange } from '@fadenkreuz/core/describers';
  import { libraryDescriber, searchLibrary } from './library.js';
  import RevisionChanges from './RevisionChanges.svelte';

  /** What the library says that the found revision of a device does otherwise. */
  let { device, found }: { device: Device; found: Found } = $props();

  async function changes(): Promise<FactChange[] | undefined> {
    const lines = await searchLibrary('');
    const { vendor, productCode } = device.identity;
    const revision = `${found.majorRevision}.${found.minorRevision}`;
    const line = lines.find(
      (l) => l.vendor === vendor && l.product === productCode && l.revision === revision,
    );
    return line && changesForDevice(device, await libraryDescriber(line));
  }
</script>

<h3 class="lens-heading">What the found revision changes</h3>
{#await changes()}
  <p class="text-faint">The library is being asked.</p>
{:then list}
  {#if list}<RevisionChanges changes={list} none="Nothing: its images are those of the plan." />
  {:else}
    <p class="text-faint">
      The library has no describer of revision {found.majorRevision}.{found.minorRevision}: compare the images
      with the manual before you accept it.
    </p>
  {/if}
{:catch error}
  <p class="text-error">{(error as Error).message}</p>
{/await}
