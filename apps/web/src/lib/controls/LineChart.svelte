<script lang="ts">
  import type { EChartsCoreOption, EChartsType } from 'echarts/core';
  import { onMount } from 'svelte';

  /** Colours and letters of the theme, for a chart. */
  export interface ChartStyle {
    colour: (name: string) => string;
    text: { color: string; fontFamily: string; fontSize: number };
  }
  interface Props {
    option: (style: ChartStyle) => EChartsCoreOption;
    label: string;
    class?: string;
  }
  /** Lines and points over two axes; drawn anew when what it shows changes. */
  let { option, label, class: className = 'h-56' }: Props = $props();

  let box: HTMLDivElement;
  let chart = $state.raw<EChartsType | undefined>();

  function styleOf(): ChartStyle {
    const style = getComputedStyle(box);
    return {
      colour: (name) => style.getPropertyValue(name).trim(),
      text: { color: style.color, fontFamily: 'Atkinson Hyperlegible Next Variable', fontSize: 12 },
    };
  }
  $effect(() => {
    chart?.setOption({ animation: false, ...option(styleOf()) }, { notMerge: true });
  });

  onMount(() => {
    let watch: ResizeObserver | undefined;
    void (async () => {
      const [{ init, use }, { LineChart, ScatterChart }, components, { SVGRenderer }] = await Promise.all([
        import('echarts/core'),
        import('echarts/charts'),
        import('echarts/components'),
        import('echarts/renderers'),
      ]);
      const { GridComponent, LegendComponent, TooltipComponent, MarkLineComponent } = components;
      use([
        ...[LineChart, ScatterChart, GridComponent, LegendComponent, TooltipComponent],
        ...[MarkLineComponent, SVGRenderer],
      ]);
      chart = init(box, null, { renderer: 'svg' });
      watch = new ResizeObserver(() => chart?.resize());
      watch.observe(box);
    })();
    return () => {
      watch?.disconnect();
      chart?.dispose();
    };
  });
</script>

<div bind:this={box} class={['w-full', className]} role="img" aria-label={label}></div>
