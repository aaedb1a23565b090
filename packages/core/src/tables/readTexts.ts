import type { AddressScene } from '../layout/address.js';
import type { Field } from '../layout/field.js';
import { bitOfAddress } from '../layout/readAddress.js';
import { signalsOf, type Signal } from '../layout/signals.js';
import { Problem } from '../messages/problem.js';
import { addressEntry } from './cells.js';
import type { Column } from './columns.js';
import { maxRows, type TableReading } from './guessReading.js';
import { placeInImage } from './readTable.js';

/** A name or a comment that a table gives to what is laid out already. */
export interface TextChange {
  row: number;
  scene: AddressScene;
  field: Field;
  /** A single bit of the field, which gets a label; undefined for the field itself. */
  bit: number | undefined;
  what: 'name' | 'note' | 'bit label';
  before: string;
  after: string;
}

export interface ReadTexts {
  changes: TextChange[];
  /** Rows that name nothing that is laid out, counted from 1 as in the pasted text. */
  bad: { row: number; text: string; reason: string }[];
  /** Rows whose texts are there already. */
  same: number;
}

/** The edit of an image whose fields get other texts (cell/edits). */
export interface TextEdit {
  edit: 'image.arrange';
  image: string;
  title: string;
  fields: Field[];
}

interface Found {
  scene: AddressScene;
  signal: Signal;
  bit: number | undefined;
}

/**
 * Names and comments for signals that are laid out, by their addresses of either side or else by their names: nothing
 * but texts changes. The first of the scenes is the image that the table is read for; others are found by direct
 * addresses and by names with their device in front.
 */
export function readTexts(
  rows: string[][],
  reading: TableReading,
  scenes: readonly AddressScene[],
): ReadTexts {
  const result: ReadTexts = { changes: [], bad: [], same: 0 };
  const body = reading.headed ? rows.slice(1) : rows;
  body.slice(0, maxRows).forEach((row, i) => {
    if (row.every((c) => c === '')) return;
    const number = i + (reading.headed ? 2 : 1);
    const cell = (column: Column) => (row[reading.columns.indexOf(column)] ?? '').trim();
    const found = cell('address')
      ? byAddress(cell('address'), row, number, reading, scenes)
      : byName(cell('name'), scenes);
    if (typeof found === 'string') {
      result.bad.push({ row: number, text: row.join(' | ').slice(0, 120), reason: found });
      return;
    }
    const name = cell('address') ? cell('name') : '';
    if (name !== '' && found.bit === undefined && found.signal.id !== found.signal.of) {
      const reason = `${found.signal.name} is one of several that have their name from one field`;
      result.bad.push({ row: number, text: row.join(' | ').slice(0, 120), reason });
      return;
    }
    const changes = changesOf(found, name, cell('note'), number);
    result.changes.push(...changes);
    if (changes.length === 0) result.same += 1;
  });
  return result;
}

/** The changes as edits, one for each image that has any. */
export function textEdits({ changes }: Pick<ReadTexts, 'changes'>): TextEdit[] {
  const images = new Map(changes.map((c) => [c.scene.image.id, c.scene.image]));
  return [...images.values()].map((image) => {
    const own = changes.filter((c) => c.scene.image.id === image.id);
    const fields = image.fields.flatMap((field) => {
      const mine = own.filter((c) => c.field.id === field.id);
      return mine.length === 0 ? [] : [mine.reduce(changed, field)];
    });
    const title = `take ${own.length} names and comments into the ${image.direction} image`;
    return { edit: 'image.arrange', image: image.id, title, fields };
  });
}

function changed(field: Field, { what, bit, after }: TextChange): Field {
  if (what === 'name') return { ...field, name: after };
  if (what === 'note') return { ...field, note: after };
  const others = field.bitLabels.filter((l) => l.bit !== bit);
  return { ...field, bitLabels: [...others, { bit: bit!, text: after }].sort((a, b) => a.bit - b.bit) };
}

function changesOf({ scene, signal, bit }: Found, name: string, note: string, row: number): TextChange[] {
  const field = scene.image.fields.find((f) => f.id === signal.of)!;
  const change = (what: TextChange['what'], before: string, after: string): TextChange[] =>
    after === '' || after === before ? [] : [{ row, scene, field, bit, what, before, after }];
  if (bit !== undefined) {
    const before = field.bitLabels.find((l) => l.bit === bit)?.text ?? '';
    return change('bit label', before, name || note);
  }
  return [...change('name', field.name, name), ...change('note', field.note, note)];
}

/** Texts by which an address may be one of another image. */
const namesItsImage = /^%/;

function byAddress(
  text: string,
  row: string[],
  rowNumber: number,
  reading: TableReading,
  scenes: readonly AddressScene[],
): Found | string {
  let reason = `"${text}" is no address`;
  for (const scene of namesItsImage.test(text) ? scenes : scenes.slice(0, 1)) {
    try {
      const at = addressEntry(text)
        ? placeInImage({ reading, order: scene.image.order ?? 'little', image: scene.image, row, rowNumber })
        : { at: bitOfAddress(text, scene) };
      if (typeof at === 'string') return at;
      const found = signalAt(scene, at.at);
      if (found) return found;
      reason = `nothing is laid out at ${text}`;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      if (scene === scenes[0] && !namesItsImage.test(text)) reason = error.message;
    }
  }
  return reason;
}

/** What lies at a bit: a signal that begins there, else a bit within one that has bits of its own. */
function signalAt(scene: AddressScene, at: number): Found | undefined {
  const signals = signalsOf(scene.image);
  const begins = signals.filter((s) => s.at === at).sort((a, b) => a.bits - b.bits)[0];
  if (begins) return { scene, signal: begins, bit: undefined };
  const holds = signals.find((s) => s.at < at && at < s.at + s.bits && s.type !== 'STRING');
  return holds && { scene, signal: holds, bit: at - holds.at };
}

function byName(name: string, scenes: readonly AddressScene[]): Found | string {
  if (!name) return 'it has neither address nor name';
  const wanted = name.toLowerCase();
  for (const [i, scene] of scenes.entries()) {
    const device = scene.device.name.toLowerCase();
    const signal = signalsOf(scene.image).find((s) => {
      const own = s.name.toLowerCase();
      return (
        (i === 0 && own === wanted) ||
        [`${device}.${own}`, `${device}_${own}`].some((full) => full === wanted)
      );
    });
    if (signal) return { scene, signal, bit: undefined };
  }
  return `nothing is called ${name}`;
}
