import { applyEdit, Cell, check, imagesOf } from '@fadenkreuz/core';
import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { bench, describe } from 'vitest';

/**
 * A cell of 200 devices with 100 fields each: all its findings, and one edit. The peer is a plain walk through every
 * field that only adds up their lengths: what any reading of the whole cell costs.
 */
const [original] = Cell.parse(demo.cell).devices;
const devices = Array.from({ length: 200 }, (_, d) => {
  const device = structuredClone(original!);
  device.id = `d${d}`;
  device.name = `unit_m${d}`;
  device.description.parameters = [];
  device.address = `10.0.${d >> 7}.${(d & 127) + 2}`;
  for (const link of device.links) {
    link.id = `l${d}`;
    for (const image of imagesOf(link)) {
      image.id = `${link.id}-${image.direction}`;
      image.size = 150;
      image.start = d * 150;
      image.groups = [];
      const [field] = image.fields;
      image.fields = Array.from({ length: 50 }, (_unused, f) => ({
        ...structuredClone(field!),
        ...{
          id: `${image.id}-${f}`,
          name: `signal_${f}`,
          type: 'INT' as const,
          at: f * 24,
          bits: 16,
          labels: [],
        },
        scale: { factor: '1/100', offset: '0' },
        unit: 'Hz',
      }));
      if (image.direction === 'feedback') image.derived = [];
    }
  }
  return device;
});
const cell = Cell.parse({ ...demo.cell, devices, network: { subnet: '10.0.0.0/16' } });

/** Findings read what a cell was once worked out to hold; a cell after an edit has only one image anew. */
let turn = 0;
const edited = () =>
  applyEdit(cell, {
    edit: 'field.set',
    image: 'l7-feedback',
    field: 'l7-feedback-3',
    set: { at: 72 + ((turn += 1) % 2) * 8 },
  });

let sum = check(cell).length;

describe('a cell of 200 devices and 20,000 fields', () => {
  bench('a copy of the cell, and all its findings', () => {
    sum += check(structuredClone(cell)).length;
  });
  bench('a copy of the cell alone', () => {
    sum += structuredClone(cell).devices.length;
  });
  bench('all findings again', () => {
    sum += check(cell).length;
  });
  bench('one edit, checked against the model', () => {
    sum += edited().devices.length;
  });
  bench('one edit, then all findings', () => {
    sum += check(edited()).length;
  });
  bench('every field once, only adding up', () => {
    for (const device of cell.devices)
      for (const link of device.links)
        for (const image of imagesOf(link)) for (const field of image.fields) sum += field.bits;
  });
});

export { sum };
