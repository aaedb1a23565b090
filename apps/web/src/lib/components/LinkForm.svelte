<script lang="ts">
  import { connectionsOf, imagesOf, protocols, type Image, type Link } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import BlocksForm from './BlocksForm.svelte';
  import BudgetRows from './BudgetRows.svelte';
  import LensEntry from './LensEntry.svelte';
  import SlotList from './SlotList.svelte';

  /** How one device is reached: protocol, connection, images, timing and what happens on loss. */
  let { link }: { link: Link } = $props();
  const desk = useDesk();

  const set = (part: Partial<Omit<Link, 'id' | 'command' | 'feedback'>>) =>
    desk.edit({ edit: 'link.set', link: link.id, set: part });
  const setImage = (image: Image, key: 'instance' | 'size' | 'start') => (text: string) =>
    desk.edit({ edit: 'image.set', image: image.id, set: { [key]: Number(text) } });

  const modbus = $derived(link.protocol === 'modbus-tcp');
  const polled = $derived(link.connection.startsWith('polled'));
  const profinet = $derived(link.protocol === 'profinet');
  const cyclic = $derived(!modbus && !polled && !profinet);
  const connectionTitles: Record<Link['connection'], string> = {
    'exclusive-owner': 'EtherNet/IP, exclusive owner',
    'input-only': 'EtherNet/IP, input only',
    'listen-only': 'EtherNet/IP, listen only',
    'polled-connected': 'EtherNet/IP, asked over a connection',
    'polled-unconnected': 'EtherNet/IP, asked without a connection',
    blocks: 'Modbus TCP, blocks of registers',
    'cyclic-rt': 'PROFINET, cyclic',
  };

  /** A choice brings with it what belongs to it: the protocol, and what the way of asking does on loss. */
  function choose(connection: Link['connection']) {
    const protocol = protocols.find((p) => (connectionsOf[p] as readonly string[]).includes(connection))!;
    const loss = { 'polled-connected': 'drop', 'polled-unconnected': 'hold' } as const;
    const onLoss = loss[connection as keyof typeof loss] ?? link.onLoss;
    set({ protocol, connection, onLoss });
  }
  const entries = $derived(
    modbus || profinet
      ? ([
          ['size', 'size, bytes'],
          ['start', 'controller start byte'],
        ] as const)
      : ([
          ['instance', 'instance'],
          ['size', 'size, bytes'],
          ['start', 'controller start byte'],
        ] as const),
  );
</script>

<h3 class="lens-heading">Link</h3>
<select
  class="select w-full select-sm"
  aria-label="protocol and connection"
  value={link.connection}
  onchange={(event) => choose(event.currentTarget.value as Link['connection'])}
>
  {#each Object.entries(connectionTitles) as [id, title] (id)}<option value={id}>{title}</option>{/each}
</select>
{#each imagesOf(link) as image (image.id)}
  {@const command = image.direction === 'command'}
  <div class={['mt-2 font-medium', command ? 'text-command' : 'text-feedback']}>
    {command ? '▸' : '◂'}
    {image.direction} image
    <span class="text-xs font-normal text-faint"
      >controller {command ? 'output' : 'input'}, device {command ? 'input' : 'output'}</span
    >
  </div>
  {#each entries as [key, title] (key)}
    <LensEntry
      {title}
      class="w-20 font-mono"
      value={String(image[key])}
      label="{title} of the {image.direction} image"
      inputmode="numeric"
      take={setImage(image, key)}
    />
  {/each}
{/each}

{#if modbus}
  <BlocksForm {link} />
{:else if profinet}
  <SlotList {link} />
{:else if cyclic}
  <h3 class="lens-heading">Opening</h3>
  <label class="lens-row">
    the device sends to
    <select
      class="inplace cursor-pointer"
      value={link.toController}
      onchange={(event) => set({ toController: event.currentTarget.value as Link['toController'] })}
    >
      <option value="point-to-point">this controller alone</option>
      <option value="multicast">a multicast group</option>
    </select>
  </label>
  <label class="lens-row">
    it sends
    <select
      class="inplace cursor-pointer"
      value={link.trigger}
      onchange={(event) => set({ trigger: event.currentTarget.value as Link['trigger'] })}
    >
      <option value="cyclic">at the update time</option>
      <option value="change-of-state">also at each change</option>
    </select>
  </label>
  {#each [['commandFormat', 'command'], ['feedbackFormat', 'feedback']] as const as [key, title] (key)}
    {#if key === 'feedbackFormat' || link.connection === 'exclusive-owner'}
      <label class="lens-row">
        {title} format
        <select
          class="inplace cursor-pointer"
          value={link[key]}
          onchange={(event) => set({ [key]: event.currentTarget.value as Link['commandFormat'] })}
        >
          <option value="run-idle">32-bit header</option>
          <option value="modeless">bare</option>
        </select>
      </label>
    {/if}
  {/each}
  <LensEntry
    title="configuration instance"
    class="w-20 font-mono"
    value={String(link.configuration.instance)}
    take={(text) => set({ configuration: { ...link.configuration, instance: Number(text) } })}
  />
  <LensEntry
    title="configuration data"
    class="w-36 font-mono"
    value={link.configuration.data}
    placeholder="none"
    label="configuration data, hex"
    take={(text) =>
      set({ configuration: { ...link.configuration, data: text.replace(/\s/g, '').toUpperCase() } })}
  />
{/if}

<BudgetRows {link} />

<h3 class="lens-heading">Loss</h3>
<label class="lens-row">
  times out after
  <select
    class="inplace cursor-pointer font-mono"
    value={String(link.timeoutMultiplier)}
    onchange={(event) =>
      set({ timeoutMultiplier: Number(event.currentTarget.value) as Link['timeoutMultiplier'] })}
  >
    {#each [4, 8, 16, 32, 64, 128, 256, 512] as n (n)}<option value={String(n)}
        >{n} ×{modbus ? ' the poll time' : ` = ${(n * link.feedbackRpi) / 1000} ms`}</option
      >{/each}
  </select>
</label>
<label class="lens-row">
  on loss the device
  <select
    class="inplace cursor-pointer"
    value={link.onLoss}
    onchange={(event) => set({ onLoss: event.currentTarget.value as Link['onLoss'] })}
  >
    <option value="drop">drops its outputs</option>
    <option value="hold">holds the last state</option>
  </select>
</label>
