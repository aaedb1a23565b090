<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import { Block, blockBytes, readRegister, registerTables, type ModbusTcpLink } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import { noRegister, stretchText, tableTitles } from './registers.js';

  /** The runs of registers that a Modbus link reads and writes, each at its own poll time. */
  let { link }: { link: ModbusTcpLink } = $props();
  const desk = useDesk();

  const setLink = (part: Partial<Pick<ModbusTcpLink, 'unit' | 'port' | 'blocks'>>) =>
    desk.edit({ edit: 'link.set', link: link.id, set: part });
  const setBlock = (block: Block, part: Partial<Block>) =>
    setLink({ blocks: link.blocks.map((b) => (b.id === block.id ? { ...b, ...part } : b)) });
  const unitTitle = ({ table }: Block) => (table === 'coils' || table === 'discrete' ? 'bits' : 'registers');
  /** Empty means: not shown. */
  const place = (text: string) => (text.trim() === '' ? null : Number(text));

  function add() {
    const direction = 'feedback';
    const behind = link.blocks
      .filter((b) => b.direction === direction)
      .reduce((end, b) => Math.max(end, b.at + blockBytes(b)), 0);
    const block: Block = {
      id: crypto.randomUUID(),
      name: `block_${link.blocks.length + 1}`,
      direction,
      table: 'holding',
      start: 0,
      count: 1,
      poll: 100_000,
      at: behind,
      fresh: null,
      age: null,
    };
    setLink({ blocks: [...link.blocks, block] });
  }
</script>

<LensSection title="Modbus">
  <LensEntry
    title="unit identifier"
    class="w-20 font-mono"
    value={String(link.unit)}
    inputmode="numeric"
    take={(text) => setLink({ unit: Number(text) })}
  />
  <LensEntry
    title="TCP port"
    class="w-20 font-mono"
    value={String(link.port)}
    inputmode="numeric"
    take={(text) => setLink({ port: Number(text) })}
  />
  {#each link.blocks as block (block.id)}
    {@const command = block.direction === 'command'}
    <section class="mt-3 border-l-3 border-base-300 pl-2" aria-label="block {block.name}">
      <div class={['flex items-center gap-2 font-medium', command ? 'text-command' : 'text-feedback']}>
        {command ? '▸' : '◂'} block
        <button
          class="btn ml-auto text-base-content btn-xs"
          onclick={() => setLink({ blocks: link.blocks.filter((b) => b.id !== block.id) })}>Remove</button
        >
      </div>
      <LensEntry
        title="name"
        class="w-32 font-mono"
        value={block.name}
        label="name of block {block.name}"
        take={(name) => setBlock(block, { name })}
      />
      <label class="lens-row">
        direction
        <select
          class="inplace cursor-pointer"
          value={block.direction}
          onchange={(event) =>
            setBlock(block, { direction: event.currentTarget.value as Block['direction'] })}
        >
          <option value="feedback">read</option>
          <option value="command">written</option>
        </select>
      </label>
      <label class="lens-row">
        table
        <select
          class="inplace cursor-pointer"
          value={block.table}
          onchange={(event) => setBlock(block, { table: event.currentTarget.value as Block['table'] })}
        >
          {#each registerTables as table (table)}<option value={table}>{tableTitles[table]}</option>{/each}
        </select>
      </label>
      <LensEntry
        title="first address, from 0, or reference"
        class="w-24 font-mono"
        value={String(block.start)}
        label="first address of {block.name}"
        take={(text) => {
          const register = readRegister(text, block.table);
          if (!register) {
            desk.note = noRegister(text);
            return false;
          }
          const { start, table = block.table } = register;
          return setBlock(block, { start, table });
        }}
      />
      <p class="text-faint">{stretchText(block)}</p>
      {#each [['count', unitTitle(block)], ['at', 'first byte in the image']] as const as [key, title] (key)}
        <LensEntry
          {title}
          class="w-20 font-mono"
          value={String(block[key])}
          label="{title} of {block.name}"
          inputmode="numeric"
          take={(text) => setBlock(block, { [key]: Number(text) })}
        />
      {/each}
      <LensEntry
        title="poll time, ms"
        class="w-20 font-mono"
        value={String(block.poll / 1000)}
        label="poll time of {block.name}"
        inputmode="decimal"
        take={(text) => setBlock(block, { poll: Math.round(Number(text) * 1000) })}
      />
      <LensEntry
        title="bit that shows it is fresh"
        class="w-20 font-mono"
        value={block.fresh === null ? '' : String(block.fresh)}
        placeholder="none"
        label="fresh bit of {block.name}"
        take={(text) => setBlock(block, { fresh: place(text) })}
      />
      <LensEntry
        title="byte that shows its age"
        class="w-20 font-mono"
        value={block.age === null ? '' : String(block.age)}
        placeholder="none"
        label="age byte of {block.name}"
        take={(text) => setBlock(block, { age: place(text) })}
      />
    </section>
  {/each}
  <button class="btn mt-2 btn-sm" onclick={add}>Add a block</button>
</LensSection>
