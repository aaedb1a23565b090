import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { compileCodec, imageById, readCellFile } from '@fadenkreuz/core';
import { Parser } from 'binary-parser';
import { bench, describe } from 'vitest';

/**
 * Decoding one feedback image of the demo's weigher (22 bytes, 18 fields, 9 of them single bits): our compiled codec,
 * which reports what changed, against a compiled parser of the registry and against reading by hand. Ratios of one run
 * count, not times.
 */
const { image } = imageById(readCellFile(JSON.stringify(demo)), 'b1-fb');
const codec = compileCodec(image.fields);
const images = Array.from({ length: 64 }, (_, n) =>
  Uint8Array.from({ length: image.size }, (_, i) => (n * 31 + i * 7) & 0xff),
);
const views = images.map((bytes) => new DataView(bytes.buffer));

const flags = image.fields.filter((f) => f.type === 'BOOL').map((f) => f.at - 112);
const parser = new Parser()
  .endianess('little')
  .uint32('gross1')
  .uint32('net1')
  .uint32('gross2')
  .uint16('exchange');
parser.uint16('status').uint8('decimals1').uint8('decimals2').uint16('lastCommand').uint16('counter');

let sum = 0;
let next = 0;
const turn = () => (next = (next + 1) & 63);

describe('decode one image of 18 fields', () => {
  bench('compiled codec', () => {
    codec.decode(views[turn()]!);
    sum += codec.numberAt(0);
  });

  bench('binary-parser, compiled, and the bits taken from its status word', () => {
    const values = parser.parse(images[turn()]!) as { gross1: number; status: number };
    const bits = flags.map((bit) => (values.status >> bit) & 1);
    sum += values.gross1 + bits[0]!;
  });

  bench('by hand into a new object', () => {
    const view = views[turn()]!;
    const status = view.getUint16(14, true);
    const values = {
      gross1: view.getUint32(0, true),
      net1: view.getUint32(4, true),
      gross2: view.getUint32(8, true),
      exchange: view.getUint16(12, true),
      flags: flags.map((bit) => ((status >> bit) & 1) === 1),
      decimals1: view.getUint8(16),
      decimals2: view.getUint8(17),
      lastCommand: view.getUint16(18, true),
      counter: view.getUint16(20, true) & 0xfff,
    };
    sum += values.gross1;
  });
});

export { sum };
