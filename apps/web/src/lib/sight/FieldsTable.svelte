<script lang="ts">
  import { bothSides, fieldTable, type AddressScene } from '@fadenkreuz/core';

  /** The fields of an image as rows, with the columns that any of them fills. */
  let { scene }: { scene: AddressScene } = $props();

  const image = $derived(scene.image);
  const table = $derived(fieldTable(image));
  const titles = $derived(table[0] ?? []);
  const fields = $derived(table.slice(1));
  const filled = $derived(titles.map((_, i) => fields.some((row) => row[i])));
</script>

<!-- It scrolls, so the keyboard must reach it (WCAG 2.2, 2.1.1). -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="min-h-0 flex-1 overflow-auto rounded-field border border-base-300"
  role="region"
  aria-label="table of the fields"
  tabindex="0"
>
  <table class="w-full border-collapse text-xs" aria-label="fields of the image">
    <thead class="sticky top-0 bg-base-200 text-left">
      <tr>
        <th class="border-b border-base-300 px-2 py-1">controller</th>
        {#each titles as title, i (i)}
          {#if filled[i]}<th class="border-b border-base-300 px-2 py-1 whitespace-nowrap">{title}</th>{/if}
        {/each}
      </tr>
    </thead>
    <tbody>
      {#each fields as row, r (r)}
        {@const [byte = 0, bitOf = 0] = (row[titles.findIndex((t) => t.startsWith('address'))] ?? '')
          .split('.')
          .map(Number)}
        <tr>
          <td class="border-b border-base-300 px-2 py-0.5 font-mono text-faint"
            >{byte < image.size ? bothSides(scene, byte * 8 + bitOf).controller.text : 'past the end'}</td
          >
          {#each row as cell, i (i)}
            {#if filled[i]}<td class="max-w-64 truncate border-b border-base-300 px-2 py-0.5 font-mono"
                >{cell}</td
              >{/if}
          {/each}
        </tr>
      {:else}
        <tr><td class="p-2 text-faint">No fields yet.</td></tr>
      {/each}
    </tbody>
  </table>
</div>
