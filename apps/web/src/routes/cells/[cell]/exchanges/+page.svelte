<script lang="ts">
  import { page } from '$app/state';
  import { untrack } from 'svelte';
  import { replaceState } from '$app/navigation';
  import ExchangeLens from '$lib/exchanges/ExchangeLens.svelte';
  import ExchangeList from '$lib/exchanges/ExchangeList.svelte';
  import NewExchange from '$lib/exchanges/NewExchange.svelte';
  import RunBar from '$lib/exchanges/RunBar.svelte';
  import { scoreOf } from '$lib/exchanges/score.js';
  import ScoreChart from '$lib/exchanges/ScoreChart.svelte';
  import StepLens from '$lib/exchanges/StepLens.svelte';
  import StepsTable from '$lib/exchanges/StepsTable.svelte';
  import ArmLine from '$lib/bench/ArmLine.svelte';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { ExchangeFollower } from '$lib/desk/exchangeFollower.svelte.js';
  import View from '$lib/frame/View.svelte';

  const desk = useDesk();
  let asked = $state(page.url.searchParams.get('exchange') ?? '');
  const exchange = $derived(desk.cell.exchanges.find((e) => e.id === asked) ?? desk.cell.exchanges[0]);
  let step = $state<number | undefined>();
  const at = $derived(exchange && step !== undefined && step < exchange.steps.length ? step : undefined);

  let follower = $state.raw<ExchangeFollower | undefined>();
  const id = $derived(exchange?.id);
  $effect(() => {
    if (id === undefined) return;
    // It looks at the bench by itself, and is not made anew with each of its news.
    const own = untrack(() => new ExchangeFollower(id, () => desk.running));
    follower = own;
    return () => own.end();
  });
  // Another exchange is shown before its follower is there.
  const story = $derived(follower?.story?.status.exchange === id ? follower?.story : undefined);
  const score = $derived(exchange && scoreOf(desk.cell, exchange, story));

  function choose(to: string) {
    asked = to;
    step = undefined;
    replaceState(`?exchange=${encodeURIComponent(to)}`, {});
  }
</script>

<View lensTitle="Exchange">
  {#snippet main()}
    <div class="mb-2 flex items-center gap-3">
      <h1 class="text-lg font-semibold">Exchanges</h1>
      <span class="text-faint">handshakes as a model: run, measured, checked, written as code</span>
      <span class="ml-auto"></span>
      <ArmLine />
    </div>
    <NewExchange onmade={choose} />
    {#if desk.cell.exchanges.length === 0}
      <p class="mt-4 text-faint">
        No exchange yet. Choose a device above: what its roles allow is ready-made, and edited afterwards.
      </p>
    {:else}
      <div class="mt-3 max-h-[24vh] overflow-y-auto"><ExchangeList chosen={id} onchoose={choose} /></div>
    {/if}
    {#if exchange && score}
      <section class="mt-4" aria-label={exchange.name}>
        <h2 class="mb-1 font-semibold">{exchange.name}</h2>
        {#key exchange.id}
          <RunBar {exchange} {story} onasked={() => void follower?.ask()} />
        {/key}
        {#if exchange.steps.length > 0}
          <ScoreChart {score} chosen={at} onchoose={(to) => (step = to)} />
          <StepsTable {exchange} {story} chosen={at} onchoose={(to) => (step = to)} />
        {:else}
          <StepsTable {exchange} {story} chosen={undefined} onchoose={(to) => (step = to)} />
        {/if}
      </section>
    {/if}
  {/snippet}
  {#snippet lens()}
    {#if exchange && at !== undefined}
      <StepLens {exchange} {at} {story} onmove={(to) => (step = to)} />
    {:else if exchange}
      <ExchangeLens {exchange} />
    {:else}
      <p class="text-faint">What is chosen is explained and edited here.</p>
    {/if}
  {/snippet}
</View>
