<script lang="ts">
  import type { CustomSeriesRenderItem, CustomSeriesRenderItemReturn } from 'echarts';
  import type { EChartsType } from 'echarts/core';
  import { chartIn, chartStyle } from '$lib/controls/chart.js';
  import type { Score } from './score.js';

  interface Props {
    score: Score;
    chosen: number | undefined;
    onchoose: (step: number) => void;
  }
  /**
   * The score of an exchange: steps as bars with the time that each may take, commands above, feedback below; what was
   * recorded lies filled under what is expected. A click chooses a step.
   */
  let { score, chosen, onchoose }: Props = $props();

  let chart = $state.raw<EChartsType | undefined>();
  const rowHeight = 26;
  const height = $derived(score.rows.length * rowHeight + 40);

  function draw() {
    if (!chart) return;
    const { colour, text } = chartStyle(chart.getDom());
    const sideColour = (row: number) =>
      ({ step: text.color, command: colour('--command'), feedback: colour('--feedback') })[
        score.rows[row]!.side
      ];
    const fill = (row: number) =>
      ({
        step: colour('--color-base-300'),
        command: colour('--command-fill'),
        feedback: colour('--feedback-fill'),
      })[score.rows[row]!.side];
    const renderItem: CustomSeriesRenderItem = (params, api) => {
      const bar = score.bars[params.dataIndex]!;
      const [left, top] = api.coord([bar.from, bar.row]) as [number, number];
      const [right] = api.coord([bar.to, bar.row]) as [number, number];
      const high = rowHeight - 8;
      const own = bar.step === chosen && bar.row === 0;
      const shapes = {
        step: {
          fill: own ? colour('--color-base-300') : colour('--color-base-100'),
          stroke: text.color,
          lineWidth: own ? 2 : 1,
        },
        failed: { fill: colour('--color-base-100'), stroke: colour('--color-error'), lineWidth: 2 },
        allowed: { fill: 'none', stroke: colour('--color-base-300'), lineWidth: 1, lineDash: [3, 3] },
        expected: { fill: 'none', stroke: sideColour(bar.row), lineWidth: 1.4 },
        recorded: { fill: fill(bar.row), stroke: 'none', lineWidth: 0 },
      } as const;
      const width = Math.max(right - left, 2);
      const room = Math.floor((width - 6) / 6.4);
      const label = bar.is === 'allowed' || bar.text === '1' ? '' : bar.text.slice(0, Math.max(0, room));
      return {
        type: 'group',
        children: [
          {
            type: 'rect',
            shape: { x: left, y: top - high / 2, width, height: high, r: bar.row === 0 ? 3 : 0 },
            style: shapes[bar.is],
          },
          ...(label.length > 1 || label === bar.text
            ? [
                {
                  type: 'text' as const,
                  style: {
                    ...{
                      text: label,
                      x: left + 4,
                      y: top,
                      textVerticalAlign: 'middle' as const,
                      fill: text.color,
                    },
                    ...{ fontSize: 12, fontFamily: text.fontFamily },
                  },
                },
              ]
            : []),
        ],
      } as CustomSeriesRenderItemReturn;
    };
    chart.setOption(
      {
        animation: false,
        grid: { left: 190, right: 14, top: 6, bottom: 30 },
        xAxis: {
          type: 'value',
          min: 0,
          max: score.ends,
          name: 'ms',
          nameLocation: 'end',
          axisLabel: { ...text, hideOverlap: true, formatter: (ms: number) => String(Math.round(ms)) },
          splitLine: { lineStyle: { opacity: 0.2 } },
        },
        yAxis: {
          type: 'category',
          inverse: true,
          data: score.rows.map(({ title, side }) => ({
            value: `${side === 'command' ? '▸ ' : side === 'feedback' ? '◂ ' : ''}${title}`,
            textStyle: {
              color: side === 'step' ? text.color : colour(side === 'command' ? '--command' : '--feedback'),
            },
          })),
          axisLabel: { ...text, width: 176, overflow: 'truncate' },
          axisTick: { show: false },
          splitLine: { show: true, lineStyle: { opacity: 0.15 } },
        },
        dataZoom: [{ type: 'inside', filterMode: 'none' }],
        series: [
          {
            type: 'custom',
            renderItem,
            clip: true,
            encode: { x: [0, 1], y: 2 },
            data: score.bars.map((bar) => [bar.from, bar.to, bar.row]),
          },
        ],
      },
      { notMerge: true },
    );
  }

  $effect(() => {
    void score;
    void chosen;
    void chart;
    draw();
  });
  $effect(() => {
    void height;
    chart?.resize();
  });

  function ready(made: EChartsType): undefined {
    chart = made;
    made.on('click', ({ dataIndex }) => {
      const step = score.bars[dataIndex]?.step;
      if (step !== undefined) onchoose(step);
    });
  }
</script>

<div
  {@attach chartIn(ready)}
  class="w-full"
  style:height="{height}px"
  role="img"
  aria-label="score: {score.rows.length - 1} signals over {Math.round(
    score.ends,
  )} ms; its steps stand in the table below"
></div>
