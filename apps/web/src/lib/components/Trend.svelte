<script lang="ts">
  import { codecOf, decimalsOf, type Image, type Signal } from '@fadenkreuz/core';
  import type { EChartsType } from 'echarts/core';
  import { onMount } from 'svelte';

  /** The last minute of one field. */
  let { image, field, bytes }: { image: Image; field: Signal; bytes: Uint8Array | undefined } = $props();

  const spanMs = 60_000;
  const sampleMs = 100;
  let box: HTMLDivElement;
  let chart: EChartsType | undefined;
  let points: [number, number][] = [];
  const codec = $derived(codecOf(image));
  const index = $derived(codec.signals.findIndex((s) => s.id === field.id));

  function sample() {
    const now = Date.now();
    if (bytes && bytes.length >= codec.bytes && index >= 0) {
      codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
      points.push([now, codec.numbers[index]!]);
    }
    points = points.filter(([at]) => at > now - spanMs);
    chart?.setOption({ series: [{ data: points }], xAxis: { min: now - spanMs, max: now } });
  }

  onMount(() => {
    let timer: ReturnType<typeof setInterval> | undefined;
    let watch: ResizeObserver | undefined;
    void (async () => {
      const [{ init, use }, { LineChart }, { GridComponent }, { SVGRenderer }] = await Promise.all([
        import('echarts/core'),
        import('echarts/charts'),
        import('echarts/components'),
        import('echarts/renderers'),
      ]);
      use([LineChart, GridComponent, SVGRenderer]);
      const style = getComputedStyle(box);
      const text = { color: style.color, fontFamily: 'Atkinson Hyperlegible Mono Variable', fontSize: 11 };
      chart = init(box, null, { renderer: 'svg' });
      chart.setOption({
        animation: false,
        grid: { left: 58, right: 8, top: 10, bottom: 22 },
        xAxis: { type: 'time', axisLabel: { ...text, hideOverlap: true }, splitLine: { show: false } },
        yAxis: {
          type: 'value',
          scale: true,
          minInterval: 10 ** -decimalsOf(field),
          axisLabel: text,
          splitLine: { lineStyle: { opacity: 0.25 } },
        },
        series: [
          {
            type: 'line',
            showSymbol: false,
            step: field.type === 'BOOL' ? 'end' : false,
            lineStyle: { color: style.getPropertyValue('--feedback'), width: 1.8 },
          },
        ],
      });
      watch = new ResizeObserver(() => chart?.resize());
      watch.observe(box);
      timer = setInterval(sample, sampleMs);
    })();
    return () => {
      clearInterval(timer);
      watch?.disconnect();
      chart?.dispose();
    };
  });
</script>

<div bind:this={box} class="h-40 w-full" role="img" aria-label="{field.name} over the last minute"></div>
