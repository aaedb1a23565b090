import { readFileSync } from 'node:fs';
import { applyEdit, guessReading, imageById, readCellFile, tableCells } from '@fadenkreuz/core';
import { expect, test } from 'vitest';
import { tablePreview } from './tablePreview.js';

const file = (path: string) => readFileSync(new URL(`../../../../../${path}`, import.meta.url), 'utf8');
const demo = readCellFile(file('demo/ripening-store-3.json'));
const rows = tableCells(file('e2e/rind_camera_v1.tsv'));
const place = imageById(demo, 'v1-fb');
let ids = 0;
const newId = () => `n${(ids += 1)}`;
const preview = (base: number, part: { replace?: boolean; enlarge?: boolean; roles?: boolean } = {}) =>
  tablePreview(
    demo,
    place,
    rows,
    {
      reading: { ...guessReading(rows, place.image), base },
      replace: part.replace ?? true,
      enlarge: part.enlarge ?? false,
      roles: part.roles ?? false,
    },
    newId,
  );

test('a table that fits: its fields, no finding, and the edit does what the preview shows', () => {
  const { fields, bad, findings, edit, image, taken } = preview(1);
  expect([fields.length, bad.length, taken.size]).toEqual([143, 0, 143]);
  expect(findings.map((f) => f.code)).toEqual([]);
  expect(imageById(applyEdit(demo, edit), 'v1-fb').image).toEqual(image);
  expect(demo.devices.find((d) => d.id === 'v1')?.links[0]?.feedback).toBe(place.image);
});

test('a mistyped base is doubted before anything is taken', () => {
  expect(preview(0).findings.map((f) => f.code)).toEqual(
    expect.arrayContaining(['field.pastEnd', 'image.baseDoubtful', 'image.straddles']),
  );
});

test('the image grows to what the table needs, where that is wanted', () => {
  expect(preview(0, { enlarge: true }).image.size).toBe(345);
  expect(preview(0).image.size).toBe(344);
});

test('beside the fields that are there already, the overlaps are said', () => {
  const { image, findings } = preview(1, { replace: false });
  expect(image.fields.length).toBe(place.image.fields.length + 143);
  expect(findings.some((f) => f.code === 'field.overlap')).toBe(true);
});

test('with their names come the roles that these say, in one edit, where that is wanted', () => {
  const { roles, edit } = preview(1, { roles: true });
  expect(roles.length).toBeGreaterThan(5);
  const given = (of: typeof edit) =>
    imageById(applyEdit(demo, of), 'v1-fb').image.fields.flatMap((f) => f.role?.is ?? []);
  expect(given(edit)).toEqual(expect.arrayContaining(['ready', 'pass', 'fail']));
  expect(given(preview(1).edit)).toEqual([]);
});
