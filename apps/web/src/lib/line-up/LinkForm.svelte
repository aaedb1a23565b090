<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import {
    imagesOf,
    protocolOf,
    protocols,
    type Device,
    type EditOf,
    type Image,
    type Link,
  } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import BudgetRows from './BudgetRows.svelte';
  import LensEntry from '$lib/controls/LensEntry.svelte';
  import PointChooser from './PointChooser.svelte';
  import { formsOf } from './protocols/list.js';

  /** How one device is reached: protocol, connection, images, timing and what happens on loss. */
  let { device, link }: { device: Device; link: Link } = $props();
  const desk = useDesk();

  const set = (part: EditOf<'link.set'>['set']) => desk.edit({ edit: 'link.set', link: link.id, set: part });
  const setImage = (image: Image, key: 'instance' | 'size' | 'start') => (text: string) =>
    desk.edit({ edit: 'image.set', image: image.id, set: { [key]: Number(text) } });

  const protocol = $derived(protocolOf(link));
  const forms = $derived(formsOf(link.protocol));
  const { lossMs, feedbackMs } = $derived(protocol.times(link));

  /** Every way to connect, of every protocol. */
  const choices = protocols.flatMap(({ id, title, connections }) =>
    Object.entries(connections).map(([connection, kind]) => ({
      protocol: id,
      connection,
      title: `${title}, ${kind.title}`,
      onLoss: kind.onLoss?.does,
    })),
  );
  /** A choice brings with it what belongs to it: the protocol, and what the way of asking does on loss. */
  function choose(index: number) {
    const choice = choices[index]!;
    if (choice.protocol !== link.protocol)
      desk.edit({
        edit: 'link.protocol',
        link: link.id,
        protocol: choice.protocol,
        connection: choice.connection,
      });
    else
      set({
        connection: choice.connection,
        onLoss: choice.onLoss ?? link.onLoss,
      } as EditOf<'link.set'>['set']);
  }
  const entries = $derived([
    ...(forms.instances ? [['instance', 'instance'] as const] : []),
    ['size', 'size, bytes'] as const,
    ['start', 'controller start byte'] as const,
  ]);
</script>

<LensSection title="Link">
  <select
    class="select w-full select-sm"
    aria-label="protocol and connection"
    value={String(choices.findIndex((c) => c.protocol === link.protocol && c.connection === link.connection))}
    onchange={(event) => choose(Number(event.currentTarget.value))}
  >
    {#each choices as { title }, i (i)}<option value={String(i)}>{title}</option>{/each}
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
    <PointChooser {device} {link} {image} />
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
</LensSection>

{#if forms.link}<forms.link {link} />{/if}

<BudgetRows {link} />
<LensSection
  title="Reaction and loss"
  open={false}
  brief={link.onLoss === 'drop' ? 'drops its outputs' : 'holds the last state'}
>
  <label class="lens-row">
    times out after
    <select
      class="inplace cursor-pointer font-mono"
      value={String(link.timeoutMultiplier)}
      onchange={(event) =>
        set({ timeoutMultiplier: Number(event.currentTarget.value) as Link['timeoutMultiplier'] })}
    >
      {#each [4, 8, 16, 32, 64, 128, 256, 512] as n (n)}<option value={String(n)}
          >{n} ×{forms.countedIn ? ` ${forms.countedIn}` : ` = ${n * feedbackMs} ms`}</option
        >{/each}
    </select>
  </label>
  {#if forms.countedIn}<p class="text-xs text-faint">noticed after {Math.round(lossMs)} ms</p>{/if}
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
  <LensEntry
    title="reaction wanted, ms"
    class="w-24 font-mono"
    value={link.reaction === null ? '' : String(link.reaction / 1000)}
    placeholder="any"
    inputmode="decimal"
    take={(text) =>
      set({ reaction: text.trim() === '' ? null : Math.round(Number(text.replace(',', '.')) * 1000) })}
  />
</LensSection>
