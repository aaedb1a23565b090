<script lang="ts">
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { numberTyped } from './trainEdits.js';

  interface Props {
    title: string;
    unit?: string;
    value: number | null;
    /** Null may be entered: not known. */
    optional?: boolean;
    disabled?: boolean;
    take: (value: number | null) => boolean;
  }
  /** A number of the lens with its unit. */
  let { title, unit = '', value, optional = false, disabled = false, take }: Props = $props();
  const desk = useDesk();
  const said = $derived(unit ? `${title}, ${unit}` : title);

  function typed(text: string): boolean {
    const number = numberTyped(text);
    if (number === undefined || (number === null && !optional)) {
      desk.note = { says: `${text || 'Nothing'} is no number.`, cure: `Type ${said} as 12 or 0.5.` };
      return false;
    }
    return take(number);
  }
</script>

<LensEntry
  title={said}
  class="w-24 font-mono"
  value={value === null ? '' : String(value)}
  placeholder={optional ? 'not known' : ''}
  {disabled}
  take={typed}
/>
