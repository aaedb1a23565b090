<script lang="ts">
  import type { LinkStatus } from '@fadenkreuz/field/agent-api';

  /** A link's state as shape and word. */
  let { status }: { status: LinkStatus | undefined } = $props();

  const marks = {
    open: { mark: '✓', word: 'open', tone: 'text-success' },
    opening: { mark: '◌', word: 'opens', tone: '' },
    refused: { mark: '▲', word: 'refused', tone: 'text-error' },
    unreachable: { mark: '▲', word: 'out of reach', tone: 'text-error' },
    'timed-out': { mark: '▲', word: 'timed out', tone: 'text-error' },
    closed: { mark: '○', word: 'closed', tone: '' },
    'no-stand-in': { mark: '–', word: 'not on the bench', tone: 'text-faint' },
  };
  const shown = $derived.by(() => {
    if (status?.state === 'open' && status.reads)
      return { mark: '◁', word: 'reads only', tone: 'text-success' };
    return status ? marks[status.state] : { mark: '○', word: 'bench off', tone: 'text-faint' };
  });
</script>

<span class={['whitespace-nowrap', shown.tone]}>{shown.mark} {shown.word}</span>
