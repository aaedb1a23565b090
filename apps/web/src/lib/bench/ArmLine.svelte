<script lang="ts">
  import { useDesk } from '$lib/desk/desk.svelte.js';

  /** Beside the values that are written: that Arm is needed, will end soon, or has ended and why. */
  const desk = useDesk();
  /** How long before its end it is said, ms, and for how long it is then given again, s. */
  const soonMs = 15_000;
  const again = 120;

  const left = $derived(desk.bench?.armedForMs ?? 0);
  const ended = $derived(desk.armed ? undefined : desk.disarmedBecause);
</script>

{#if desk.armed && left <= soonMs}
  <span class="flex items-center gap-2" role="status">
    <strong class="text-accent">Arm ends in {Math.ceil(left / 1000)} s</strong>
    <button class="btn btn-xs" onclick={() => desk.arm(again)}>Go on for {again / 60} min</button>
  </span>
{:else if desk.running && !desk.armed && ended}
  <span class="flex min-w-0 items-center gap-2" role="status">
    <span class="min-w-0 wrap-anywhere" title={ended}><strong>Arm has ended:</strong> {ended}</span>
    <button class="btn shrink-0 btn-xs" onclick={() => desk.arm(again)}>Arm again</button>
  </span>
{:else if desk.running && !desk.armed}
  <span class="min-w-0 wrap-anywhere text-faint">Arm, at the foot on the right, to write.</span>
{/if}
