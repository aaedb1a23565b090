<script lang="ts">
  import { bothSides, imageTitle, signalsInside, type AddressScene, type Device } from '@fadenkreuz/core';
  import { typeText } from './fieldTexts.js';
  import { alongTape, segmentsByRow, shapeOf } from './tape.js';

  /** An image on paper: a row every two bytes, both sides' addresses, and the list of its fields. */
  let { scene, device }: { scene: AddressScene; device: Device } = $props();

  const image = $derived(scene.image);
  const shape = $derived(shapeOf(16, 'roomy', scene.runs !== undefined));
  const signals = $derived(signalsInside(image));
  const rows = $derived(segmentsByRow(signals, shape));

  interface Box {
    bits: number;
    text: string;
    kind: 'field' | 'rest' | 'free' | 'outside';
  }

  /** The boxes of a row from its highest bit to its lowest. */
  function boxesOf(row: number): Box[] {
    const boxes: Box[] = [];
    let column = 0;
    const free = (to: number) => {
      for (; column < to; column += 1) {
        const bit = alongTape(row * 16 + 15 - column, shape);
        boxes.push({ bits: 1, text: '', kind: bit < image.size * 8 ? 'free' : 'outside' });
      }
    };
    for (const segment of [...(rows[row] ?? [])].sort((a, b) => a.left - b.left)) {
      const from = Math.round(segment.left / shape.cell);
      const bits = Math.round(segment.width / shape.cell);
      // Of overlapping fields the one further left is drawn; the finding says the rest.
      if (from < column) continue;
      free(from);
      boxes.push({
        bits,
        text: segment.begins ? segment.signal.name : `… ${segment.signal.name}`,
        kind: segment.begins ? 'field' : 'rest',
      });
      column += bits;
    }
    free(16);
    return boxes;
  }
  const facts = $derived(
    [
      device.designation,
      device.kind,
      `assembly instance ${image.instance}`,
      `${image.size} bytes`,
      `${image.fields.length} fields`,
      `byte order ${image.order ?? 'not stated'}`,
      image.swapped ? 'bytes of each word swapped on the way' : '',
    ]
      .filter(Boolean)
      .join(' · '),
  );
  const count = $derived(Math.ceil((image.size * 8) / 16));
</script>

<article class="byte-map">
  <h1>{imageTitle(device, image.direction)}</h1>
  <p>
    {facts}
  </p>
  <table class="bits">
    <thead>
      <tr>
        <th>controller</th>
        {#each { length: 16 } as _, i (i)}<th>{15 - i}</th>{/each}
        <th>device</th>
      </tr>
    </thead>
    <tbody>
      {#each { length: count } as _, row (row)}
        {@const sides = bothSides(scene, row * 16)}
        <tr>
          <td class="address">{sides.controller.elementText}</td>
          {#each boxesOf(row) as box, i (i)}
            <td colspan={box.bits} class={[box.kind, box.bits === 1 && 'single']}>{box.text}</td>
          {/each}
          <td class="address">{sides.device.unitText}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  <table class="fields">
    <thead>
      <tr><th>field</th><th>controller</th><th>device</th><th>type</th><th>meaning</th></tr>
    </thead>
    <tbody>
      {#each signals as signal (signal.id)}
        {@const sides = bothSides(scene, signal.at)}
        <tr>
          <td>{signal.name}</td>
          <td class="address">{sides.controller.text}</td>
          <td class="address">{sides.device.text}</td>
          <td class="address">{typeText(signal)}</td>
          <td
            >{[...signal.labels.map((l) => `${l.value} = ${l.text}`), signal.note]
              .filter(Boolean)
              .join('; ')}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</article>

<style>
  .byte-map {
    font-size: 8pt;
    line-height: 1.15;
    max-width: 190mm;
    color: #000;
    background: #fff;
    padding: 4mm;
  }
  h1 {
    font-size: 13pt;
    font-weight: 600;
  }
  p {
    margin-bottom: 3mm;
  }
  table {
    width: 100%;
    border-collapse: collapse;
    table-layout: fixed;
    margin-bottom: 6mm;
  }
  thead {
    display: table-header-group;
  }
  tr {
    break-inside: avoid;
  }
  .bits th,
  .bits td {
    border: 0.2mm solid #999;
    height: 5.4mm;
    padding: 0 0.6mm;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-weight: normal;
    text-align: center;
  }
  .bits th:first-child,
  .bits th:last-child {
    width: 26mm;
  }
  .address {
    font-family: 'Atkinson Hyperlegible Mono Variable', monospace;
    font-size: 7.5pt;
  }
  .bits td.field {
    font-weight: 600;
    border: 0.4mm solid #000;
  }
  .bits td.rest {
    border: 0.4mm solid #000;
    border-top-style: dotted;
  }
  .bits td.single {
    font-size: 5pt;
    font-weight: normal;
    white-space: normal;
    overflow-wrap: anywhere;
  }
  .bits td.outside {
    background: #ddd;
  }
  .fields th {
    text-align: left;
    font-weight: normal;
    border-bottom: 0.4mm solid #000;
  }
  .fields td {
    border-bottom: 0.2mm solid #999;
    padding: 0.4mm 1mm 0.4mm 0;
    overflow-wrap: anywhere;
    vertical-align: top;
  }
</style>
