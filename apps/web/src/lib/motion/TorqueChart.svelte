<script lang="ts">
  import type { ChartStyle } from '$lib/controls/chart.js';
  import LineChart from '$lib/controls/LineChart.svelte';
  import {
    momentOf,
    rpmOf,
    torqueAt,
    torqueLimits,
    type DriveTrain,
    type TrainFigures,
  } from '@fadenkreuz/core';

  interface Props {
    train: DriveTrain;
    figures: TrainFigures;
    unit: string;
  }
  /** Torque over speed with what the motor has, and the moves over time. */
  let { train, figures, unit }: Props = $props();

  /** Points of each move, s apart by a share of it. */
  const perMove = 160;
  const points = $derived(
    figures.cycle.moves.flatMap(({ profile, begin, carries }) =>
      Array.from({ length: perMove + 1 }, (_, i) => {
        const t = (profile.lasts * i) / perMove;
        const { position, velocity, acceleration } = momentOf(profile, t);
        const torque = torqueAt(figures.loads, velocity, acceleration, carries);
        return { t: begin + t, position, velocity, torque, rpm: rpmOf(figures.loads, velocity) };
      }),
    ),
  );
  /** At rest the motor holds its load; what is drawn over time has that, too. */
  const timed = $derived(
    figures.cycle.moves.flatMap(({ begin, profile, carries }, i) => {
      const own = points.slice(i * (perMove + 1), (i + 1) * (perMove + 1));
      const hold = torqueAt(figures.loads, 0, 0, carries);
      const ends = figures.cycle.moves[i + 1]?.begin ?? figures.cycle.lasts;
      const at = own.at(-1)?.position ?? 0;
      const rests = [begin + profile.lasts, ends].map((t) => ({
        t,
        position: at,
        velocity: 0,
        torque: hold,
      }));
      return [...own, ...rests].map((p) => ({ ...p, position: (starts[i] ?? 0) + p.position }));
    }),
  );
  /** Where each move ends is where the next begins. */
  const starts = $derived.by(() => {
    let at = 0;
    return figures.cycle.moves.map(({ profile }) => {
      const from = at;
      at += momentOf(profile, profile.lasts).position;
      return from;
    });
  });
  const limits = $derived(torqueLimits(train));
  const axis = ({ text }: ChartStyle, name: string) => ({
    ...{ type: 'value', name, nameLocation: 'middle', nameGap: 26, nameTextStyle: text },
    ...{ axisLabel: { ...text, hideOverlap: true }, splitLine: { lineStyle: { opacity: 0.2 } } },
  });
  const side = ({ text }: ChartStyle, name: string, position: 'left' | 'right') => ({
    ...{ type: 'value', name, nameTextStyle: text, position, axisLabel: text, scale: true },
    splitLine: { show: position === 'left', lineStyle: { opacity: 0.2 } },
  });

  const overSpeed = $derived((style: ChartStyle) => ({
    grid: { left: 52, right: 16, top: 28, bottom: 42 },
    legend: { top: 0, textStyle: style.text, itemHeight: 8 },
    tooltip: { trigger: 'item', textStyle: { fontSize: 12 } },
    xAxis: axis(style, 'speed, rpm'),
    yAxis: { ...axis(style, 'torque, N·m'), nameGap: 36 },
    series: [
      ...(limits.length > 0
        ? [
            line(
              'peak',
              limits.map((l) => [l.rpm, l.peak]),
              style.text.color,
              'dashed',
            ),
            line(
              'all the time',
              limits.map((l) => [l.rpm, l.rated]),
              style.text.color,
              'solid',
            ),
          ]
        : []),
      {
        ...{ name: 'moves', type: 'scatter', symbolSize: 4, itemStyle: { color: style.colour('--command') } },
        data: points.map((p) => [Math.abs(p.rpm), Math.abs(p.torque)]),
      },
      {
        ...{ name: 'rms', type: 'scatter', symbol: 'diamond', symbolSize: 13 },
        itemStyle: { color: style.colour('--feedback') },
        data: [[figures.cycle.meanSpeed, figures.cycle.rmsTorque]],
      },
    ],
  }));
  const line = (name: string, data: number[][], color: string, type: string) => ({
    ...{ name, type: 'line', showSymbol: false, data, lineStyle: { color, type, width: 1.4 } },
    itemStyle: { color },
  });
  const overTime = $derived((style: ChartStyle) => ({
    grid: { left: 52, right: 52, top: 28, bottom: 42 },
    legend: { top: 0, textStyle: style.text, itemHeight: 8 },
    tooltip: { trigger: 'axis', textStyle: { fontSize: 12 } },
    xAxis: axis(style, 's'),
    yAxis: [side(style, `${unit}, ${unit}/s`, 'left'), side(style, 'N·m', 'right')],
    series: [
      line(
        'position',
        timed.map((p) => [p.t, p.position]),
        style.text.color,
        'solid',
      ),
      line(
        'velocity',
        timed.map((p) => [p.t, p.velocity]),
        style.colour('--feedback'),
        'solid',
      ),
      {
        ...line(
          'torque',
          timed.map((p) => [p.t, p.torque]),
          style.colour('--command'),
          'solid',
        ),
        yAxisIndex: 1,
      },
    ],
  }));
</script>

<div class="grid grid-cols-2 gap-3">
  <LineChart option={overSpeed} label="torque over speed" />
  <LineChart option={overTime} label="the moves over time" />
</div>
