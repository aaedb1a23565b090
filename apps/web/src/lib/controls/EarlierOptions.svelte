<script lang="ts">
  import type { EarlierStates } from '$lib/desk/earlier.svelte.js';

  /** The earlier states of a cell as choices, each by the change that ended it; the value is `version <n>`. */
  let { states, label }: { states: EarlierStates; label: string } = $props();
</script>

<optgroup {label}>
  {#each states.changes as { version } (version)}
    <option value="version {version - 1}">{states.titleOf(version - 1)}</option>
  {/each}
</optgroup>
