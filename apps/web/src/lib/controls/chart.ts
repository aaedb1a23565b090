import type { EChartsType } from 'echarts/core';
import { untrack } from 'svelte';
import type { Attachment } from 'svelte/attachments';

/** ECharts with what our charts are made of: loaded once, when the first of them is shown. */
async function loaded() {
  const [{ init, use }, charts, components, { SVGRenderer }] = await Promise.all([
    import('echarts/core'),
    import('echarts/charts'),
    import('echarts/components'),
    import('echarts/renderers'),
  ]);
  const { LineChart, ScatterChart, CustomChart } = charts;
  const { GridComponent, LegendComponent, TitleComponent, TooltipComponent } = components;
  const { DataZoomComponent, MarkLineComponent, AxisPointerComponent } = components;
  use([
    ...[LineChart, ScatterChart, CustomChart, GridComponent, LegendComponent, TitleComponent],
    ...[TooltipComponent, DataZoomComponent, MarkLineComponent, AxisPointerComponent, SVGRenderer],
  ]);
  return init;
}
let loading: ReturnType<typeof loaded> | undefined;

/** Colours and letters of the theme, for a chart. */
export interface ChartStyle {
  /** A colour by the name of its custom property: `--command`. */
  colour: (name: string) => string;
  text: { color: string; fontFamily: string; fontSize: number };
}
export function chartStyle(box: Element): ChartStyle {
  const style = getComputedStyle(box);
  return {
    colour: (name) => style.getPropertyValue(name).trim(),
    text: { color: style.color, fontFamily: 'Atkinson Hyperlegible Next Variable', fontSize: 12 },
  };
}

/** A chart as large as its element; `ready` gets it once it is there, and may return what ends with it. */
export const chartIn =
  (ready: (chart: EChartsType) => (() => void) | undefined): Attachment<HTMLElement> =>
  (box) => {
    let end: (() => void) | undefined;
    let gone = false;
    void (async () => {
      const init = await (loading ??= loaded()).catch((error: unknown) => {
        // The next chart tries again.
        loading = undefined;
        throw error;
      });
      // Its element was taken away while it was loaded.
      if (gone) return;
      const chart = init(box, null, { renderer: 'svg' });
      const watch = new ResizeObserver(() => chart.resize());
      watch.observe(box);
      const over = untrack(() => ready(chart));
      end = () => {
        over?.();
        watch.disconnect();
        chart.dispose();
      };
    })();
    return () => {
      gone = true;
      end?.();
    };
  };
