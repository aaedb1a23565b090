<script lang="ts">
  import { blockKindOf, meaningOf, wiresOf, type SafetyLogic, type SafetyRun } from '@fadenkreuz/core';

  interface Props {
    logic: SafetyLogic;
    /** The simulation at work; undefined: nothing is known of values. */
    run: SafetyRun | undefined;
    /** Changes with each step of the simulation. */
    steps: number;
    chosen: string | undefined;
    onchoose: (id: string) => void;
  }
  /** The blocks of the network in three columns, what each reads, whether it is 1, and what it means. */
  let { logic, run, steps, chosen, onchoose }: Props = $props();

  const families = [
    ['input', 'Inputs'],
    ['logic', 'Logic'],
    ['output', 'Outputs'],
  ] as const;
  const nameOf = (id: string) => logic.blocks.find((b) => b.id === id)?.name ?? '?';
  const value = (id: string) => {
    void steps;
    return run?.value(id);
  };
</script>

<div class="grid grid-cols-[1fr_1.5fr_1fr] gap-4">
  {#each families as [family, title] (family)}
    <section aria-label={title}>
      <h2 class="mb-1 font-semibold">{title}</h2>
      <ul class="flex flex-col gap-1.5">
        {#each logic.blocks.filter((b) => blockKindOf(b).family === family) as block (block.id)}
          {@const on = value(block.id)}
          <li>
            <button
              class={[
                'w-full rounded-box border px-2 py-1 text-left',
                block.id === chosen ? 'border-base-content bg-base-100' : 'border-base-300',
              ]}
              aria-pressed={block.id === chosen}
              title={meaningOf(logic, block.id)}
              onclick={() => onchoose(block.id)}
            >
              <span class="flex items-baseline justify-between gap-2">
                <span class="min-w-0 font-mono wrap-anywhere">{block.name}</span>
                <span
                  class={['shrink-0 font-mono', on ? 'text-success' : 'text-faint']}
                  data-block={block.name}>{on === undefined ? '' : on ? '■ 1' : '□ 0'}</span
                >
              </span>
              <span class="block text-xs text-faint">
                {blockKindOf(block).title}{#if wiresOf(block).length > 0}:
                  {#each wiresOf(block) as wire, i (i)}
                    {i > 0 ? ', ' : ''}<span class="font-mono"
                      >{wire.not ? 'not ' : ''}{nameOf(wire.from)}</span
                    >
                  {/each}{/if}
              </span>
            </button>
          </li>
        {/each}
      </ul>
    </section>
  {/each}
</div>
