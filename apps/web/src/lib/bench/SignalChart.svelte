<script lang="ts">
  import { tableCsv } from '@fadenkreuz/core';
  import type { EChartsType } from 'echarts/core';
  import { chartIn, chartStyle } from '$lib/controls/chart.js';
  import { clockText } from './benchTexts.js';
  import { useDesk } from '$lib/desk/desk.svelte.js';
  import { saveText } from '$lib/controls/saveText.js';
  import { timesOf, valueAt, type Pick } from '$lib/desk/recorder.svelte.js';

  /** The picked signals over time: one strip a signal, with pause, zoom, two cursors and export. */
  const desk = useDesk();
  const { recorder } = desk;

  const spans = [10, 30, 60, 300, 600];
  let seconds = $state(30);
  /** ms since 1970 at which the picture stands still; undefined while it runs. */
  let pausedAt = $state<number | undefined>();
  const cursors = $derived(recorder.cursors);
  let next = $state<'a' | 'b'>('a');
  let chart = $state.raw<EChartsType | undefined>();

  const end = () => pausedAt ?? desk.images.now();
  const strip = 64;
  const height = $derived(Math.max(1, recorder.picks.length) * strip + 64);
  const titleOf = (pick: Pick) => `${pick.device}.${pick.name}${pick.unit ? `, ${pick.unit}` : ''}`;

  /** Values at the cursors, and how far they lie apart. */
  const read = $derived.by(() => {
    void desk.images.count;
    const all = recorder.picks.map((pick) => recorder.series(pick));
    const at = (time: number | undefined) =>
      time === undefined ? undefined : { at: time, values: all.map((series) => valueAt(series, time)) };
    return { a: at(cursors.a), b: at(cursors.b) };
  });
  /** Edges that the picks have, from which cursors do not stand far. */
  const edges = $derived.by(() => {
    void desk.images.count;
    return timesOf(recorder.picks.map((pick) => recorder.series(pick)));
  });
  const shown = (value: number | undefined) =>
    value === undefined || Number.isNaN(value) ? '–' : String(Number(value.toPrecision(7)));

  /** The choice that the axes stand for: data for others find no axis. */
  let laidOut: readonly Pick[] | undefined;

  /** Everything that changes with the choice of signals; the data come with `draw`. */
  function layout() {
    if (!chart) return;
    const style = chartStyle(chart.getDom());
    const text = { ...style.text, fontFamily: 'Atkinson Hyperlegible Mono Variable' };
    const { picks } = recorder;
    const grid = picks.map((_, i) => ({ left: 70, right: 10, top: 18 + i * strip, height: strip - 24 }));
    chart.setOption(
      {
        animation: false,
        axisPointer: { link: [{ xAxisIndex: 'all' }] },
        grid,
        title: picks.map((pick, i) => ({
          text: titleOf(pick),
          left: 70,
          top: 2 + i * strip,
          textStyle: { ...text, fontWeight: 600 },
        })),
        xAxis: picks.map((_, i) => ({
          type: 'time',
          gridIndex: i,
          axisLabel: { ...text, show: i === picks.length - 1, hideOverlap: true },
          axisTick: { show: false },
          splitLine: { show: false },
        })),
        yAxis: picks.map((pick, i) => ({
          type: 'value',
          gridIndex: i,
          scale: true,
          ...(pick.bit ? { min: 0, max: 1, interval: 1 } : { splitNumber: 2 }),
          axisLabel: text,
          splitLine: { lineStyle: { opacity: 0.25 } },
        })),
        dataZoom: [
          { type: 'inside', xAxisIndex: picks.map((_, i) => i) },
          {
            type: 'slider',
            xAxisIndex: picks.map((_, i) => i),
            height: 16,
            bottom: 4,
            textStyle: text,
            showDataShadow: false,
          },
        ],
        series: picks.map((pick, i) => ({
          type: 'line',
          xAxisIndex: i,
          yAxisIndex: i,
          showSymbol: false,
          // A value stands until the next packet brings another.
          step: 'end',
          lineStyle: {
            color: style.colour(pick.direction === 'command' ? '--command' : '--feedback'),
            width: 1.6,
          },
        })),
      },
      { notMerge: true },
    );
    laidOut = picks;
    draw();
  }

  function draw() {
    if (!chart || recorder.picks.length === 0 || laidOut !== recorder.picks) return;
    const to = end();
    const from = to - seconds * 1000;
    const marks = (['a', 'b'] as const).flatMap((name) =>
      cursors[name] === undefined
        ? []
        : [{ xAxis: cursors[name], label: { show: true, formatter: name.toUpperCase(), fontSize: 12 } }],
    );
    const { color: colour } = chartStyle(chart.getDom()).text;
    chart.setOption({
      xAxis: recorder.picks.map(() => ({ min: from, max: to })),
      series: recorder.picks.map((pick) => ({
        data: pointsOf(pick, from, to),
        markLine: { symbol: 'none', silent: true, data: marks, lineStyle: { color: colour, type: 'dashed' } },
      })),
    });
  }

  /** The values of a pick within the picture, from its left edge to its right one. */
  function pointsOf(pick: Pick, from: number, to: number): [number, number | undefined][] {
    const series = recorder.series(pick);
    const points = series.at.flatMap((at, i): [number, number | undefined][] =>
      at > from && at <= to ? [[at, series.values[i]]] : [],
    );
    return [[from, valueAt(series, from)], ...points, [to, valueAt(series, to)]];
  }

  /** A cursor that is set near an edge stands at it. */
  const nearPx = 8;
  function place(x: number) {
    if (!chart) return;
    const at = chart.convertFromPixel({ xAxisIndex: 0 }, x) as unknown as number;
    const near = Math.abs((chart.convertFromPixel({ xAxisIndex: 0 }, x + nearPx) as unknown as number) - at);
    const edge = edges.reduce(
      (best, time) => (Math.abs(time - at) < Math.abs(best - at) ? time : best),
      Infinity,
    );
    setCursor(next, Math.abs(edge - at) <= near ? edge : at);
    next = next === 'a' ? 'b' : 'a';
  }
  function setCursor(name: 'a' | 'b', at: number) {
    recorder.cursors[name] = at;
    draw();
  }
  /** Keys move the cursors as well: A and B put them to the middle, arrows move the last one. */
  let last: 'a' | 'b' = 'a';
  function keydown(event: KeyboardEvent) {
    const key = event.key.toLowerCase();
    const middle = end() - seconds * 500;
    if (key === 'a' || key === 'b') setCursor((last = key), middle);
    else if (key === 'arrowleft' || key === 'arrowright') {
      const step = (seconds * 1000) / 200;
      setCursor(last, (cursors[last] ?? middle) + (key === 'arrowleft' ? -step : step));
    } else return;
    event.preventDefault();
  }

  const save = () =>
    saveText(
      `${desk.cell.id}-recording.csv`,
      tableCsv([
        ['time', ...recorder.picks.map(titleOf)],
        ...edges.map((time) => [
          new Date(time).toISOString(),
          ...recorder.picks.map((pick) => {
            const value = valueAt(recorder.series(pick), time);
            return value === undefined || Number.isNaN(value) ? '' : String(value);
          }),
        ]),
      ]),
    );

  $effect(() => {
    void recorder.picks;
    void chart;
    layout();
  });
  $effect(() => {
    void seconds;
    void pausedAt;
    draw();
  });
  $effect(() => {
    void height;
    chart?.resize();
  });

  function ready(made: EChartsType) {
    chart = made;
    made.getZr().on('click', (event) => place(event.offsetX));
    let timer: ReturnType<typeof setTimeout> | undefined;
    // A picture of a minute moves so slowly that it need not be drawn as often.
    const turn = () => {
      if (pausedAt === undefined) draw();
      timer = setTimeout(turn, Math.max(200, seconds * 12));
    };
    turn();
    return () => clearTimeout(timer);
  }
</script>

<div class="mb-2 flex flex-wrap items-center gap-3">
  <button
    class="btn btn-sm"
    onclick={() => (pausedAt = pausedAt === undefined ? desk.images.now() : undefined)}
    >{pausedAt === undefined ? 'Pause' : 'Go on'}</button
  >
  <label class="flex items-center gap-2">
    last
    <select class="select w-24 select-sm" bind:value={seconds} aria-label="time shown">
      {#each spans as span (span)}<option value={span}>{span < 60 ? `${span} s` : `${span / 60} min`}</option
        >{/each}
    </select>
  </label>
  <span class="text-faint">
    <span class="font-mono">{edges.length}</span> changes, each with its packet
  </span>
  <span class="ml-auto"></span>
  <button class="btn btn-sm" onclick={() => recorder.clear()}>Clear</button>
  <button class="btn btn-sm" disabled={recorder.picks.length === 0} onclick={save}>Save as CSV</button>
</div>
{#if recorder.picks.length === 0}
  <p class="text-faint">
    Pick signals with the box beside their value, or parameters in their view; they are recorded from then on,
    whatever view is open.
  </p>
{/if}
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
  {@attach chartIn(ready)}
  class="w-full"
  style:height="{height}px"
  role="application"
  tabindex="0"
  onkeydown={keydown}
  aria-label="recorded signals; a click sets the cursors in turn, A and B set them by key, arrows move the last one"
></div>
{#if read.a ?? read.b}
  <table class="mt-2 w-full border-collapse font-mono text-sm" aria-label="values at the cursors">
    <thead>
      <tr class="border-b border-base-content/60 text-left text-xs text-faint">
        <th class="font-medium">signal</th>
        <th class="text-right font-medium">A {read.a ? clockText(read.a.at) : ''}</th>
        <th class="text-right font-medium">B {read.b ? clockText(read.b.at) : ''}</th>
        <th class="text-right font-medium"
          >B − A {read.a && read.b ? `${(read.b.at - read.a.at).toFixed(1)} ms` : ''}</th
        >
      </tr>
    </thead>
    <tbody>
      {#each recorder.picks as pick, i (pick.signal)}
        {@const [a, b] = [read.a?.values[i], read.b?.values[i]]}
        <tr class="border-b border-base-300">
          <td class="min-w-0 wrap-anywhere">{titleOf(pick)}</td>
          <td class="text-right">{shown(a)}</td>
          <td class="text-right">{shown(b)}</td>
          <td class="text-right">{a === undefined || b === undefined ? '–' : shown(b - a)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
