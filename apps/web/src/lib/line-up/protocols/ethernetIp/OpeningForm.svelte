<script lang="ts">
  import LensSection from '$lib/controls/LensSection.svelte';
  import { protocolOf, type EthernetIpLink } from '@fadenkreuz/core';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import LensEntry from '$lib/controls/LensEntry.svelte';

  /** How a class 1 connection is opened: types, trigger, real time formats, configuration. Requests need none of it. */
  let { link }: { link: EthernetIpLink } = $props();
  const desk = useDesk();

  const set = (part: Partial<Omit<EthernetIpLink, 'id' | 'protocol' | 'command' | 'feedback'>>) =>
    desk.edit({ edit: 'link.set', link: link.id, set: part });
</script>

{#if protocolOf(link).connections[link.connection]?.cyclic}
  <LensSection
    title="Opening"
    open={false}
    brief={link.trigger === 'cyclic' ? 'at the RPI' : 'on change of state'}
  >
    <label class="lens-row">
      the device sends to
      <select
        class="inplace cursor-pointer"
        value={link.toController}
        onchange={(event) =>
          set({ toController: event.currentTarget.value as EthernetIpLink['toController'] })}
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
        onchange={(event) => set({ trigger: event.currentTarget.value as EthernetIpLink['trigger'] })}
      >
        <option value="cyclic">at the RPI (update time)</option>
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
            onchange={(event) => set({ [key]: event.currentTarget.value as EthernetIpLink['commandFormat'] })}
          >
            <option value="run-idle">run/idle header</option>
            <option value="modeless">modeless</option>
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
  </LensSection>
{/if}
