<script lang="ts">
  import type { LinkStatus } from '@fadenkreuz/field/agent-api';

  /** What stops a device, as a mark: the beam that ends at a ring. */
  let { stops, brief = false }: { stops: NonNullable<LinkStatus['stops']>; brief?: boolean } = $props();
  const text = $derived(`${stops.action}: ${stops.title}. ${stops.says}`);
</script>

<span class="inline-flex min-w-0 items-center gap-1 text-faint" title={text}>
  <svg viewBox="0 0 20 14" class="h-[12px] w-[18px] shrink-0" role="img" aria-label="stopped: {text}">
    <path d="M0 7h7" class="stroke-command" stroke-width="2.4" />
    <circle cx="12" cy="7" r="4.6" fill="none" class="stroke-current" stroke-width="1.8" />
  </svg>
  {#if !brief}<span class="min-w-0 font-sans wrap-anywhere">{stops.title}</span>{/if}
</span>
