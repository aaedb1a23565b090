<script lang="ts">
  import type { EChartsCoreOption, EChartsType } from 'echarts/core';
  import { chartIn, chartStyle, type ChartStyle } from './chart.js';

  interface Props {
    option: (style: ChartStyle) => EChartsCoreOption;
    label: string;
    class?: string;
  }
  /** Lines and points over two axes; drawn anew when what it shows changes. */
  let { option, label, class: className = 'h-56' }: Props = $props();

  let chart = $state.raw<EChartsType | undefined>();
  $effect(() => {
    chart?.setOption({ animation: false, ...option(chartStyle(chart.getDom())) }, { notMerge: true });
  });
</script>

<div
  {@attach chartIn((made) => {
    chart = made;
  })}
  class={['w-full', className]}
  role="img"
  aria-label={label}
></div>
