import { FeedbackImage, Field, type Image } from '@fadenkreuz/core';
import { describe, expect, test } from 'vitest';
import { growField, moveField, newField, resizeField, retypeField, takeRoles } from './fieldEdits.js';

const field = (type: Field['type'], at: number, bits: number) =>
  Field.parse({ id: 'f', name: 'f', type, at, bits });
const image = (...fields: Field[]): Image =>
  FeedbackImage.parse({ id: 'i', instance: 1, size: 8, start: 0, direction: 'feedback', fields });
const setOf = (edit: unknown) => (edit as { set: unknown } | undefined)?.set;

describe('fields on the tape', () => {
  test('a whole type moves by bytes and stays inside; a bit moves by bits', () => {
    const word = field('UINT', 0, 16);
    expect(setOf(moveField(image(word), word, 13))).toEqual({ at: 8 });
    expect(setOf(moveField(image(word), word, 999))).toEqual({ at: 48 });
    expect(moveField(image(word), word, 7)).toBeUndefined();
    const bit = field('BOOL', 0, 1);
    expect(setOf(moveField(image(bit), bit, 13))).toEqual({ at: 13 });
  });

  test.each([
    ['INT', 0, 16, 32, { bits: 32, type: 'DINT' }],
    ['UINT', 0, 16, 12, { bits: 12, type: 'BITS' }],
    ['BITS', 3, 4, 4, { bits: 1, type: 'BOOL' }],
    ['BITS', 3, 4, 0, { bits: 1, type: 'BOOL' }],
    ['UINT', 48, 16, 999, undefined],
    ['REAL', 0, 32, 64, { bits: 64, type: 'LREAL' }],
  ] as const)('%s at %i with %i bits, ended before bit %i', (type, at, bits, end, expected) => {
    const f = field(type, at, bits);
    expect(setOf(resizeField(image(f), f, end))).toEqual(expected);
  });

  test('+ and − go through the usual lengths of whole types, bit by bit through the others', () => {
    const word = field('UINT', 0, 16);
    expect(setOf(growField(image(word), word, 1))).toEqual({ bits: 32, type: 'UDINT' });
    expect(setOf(growField(image(word), word, -1))).toEqual({ bits: 8, type: 'USINT' });
    const byte = field('USINT', 0, 8);
    expect(growField(image(byte), byte, -1)).toBeUndefined();
    const long = field('ULINT', 0, 64);
    expect(growField(image(long), long, 1)).toBeUndefined();
    const group = field('BITS', 2, 3);
    expect(setOf(growField(image(group), group, -1))).toEqual({ bits: 2, type: 'BITS' });
  });

  test('a drawn field begins at its lower bit, whichever way it was drawn, and takes a free name', () => {
    const first = newField(image(), 6, 4, 'a');
    expect(first).toMatchObject({ field: { at: 4, bits: 3, type: 'BITS', name: 'word_0' } });
    const named = { ...field('BITS', 4, 3), name: 'word_0' };
    expect(newField(image(named), 8, 23, 'b')).toMatchObject({
      field: { at: 8, bits: 16, type: 'UINT', name: 'word_1' },
    });
    expect(newField(image(named), 0, 2, 'b')).toMatchObject({ field: { name: 'word_0_2' } });
    expect(newField(image(), 0, 99, 'c')).toMatchObject({ field: { bits: 64 } });
  });

  test('another type brings its own length and goes to a byte', () => {
    const group = field('BITS', 13, 3);
    expect(setOf(retypeField(image(group), group, 'REAL'))).toMatchObject({ type: 'REAL', bits: 32, at: 8 });
    expect(setOf(retypeField(image(group), group, 'BOOL'))).toMatchObject({ type: 'BOOL', bits: 1, at: 13 });
    const last = field('USINT', 56, 8);
    expect(setOf(retypeField(image(last), last, 'LINT'))).toMatchObject({ type: 'LINT', bits: 64, at: 0 });
  });
});

test('proposed roles are taken in one edit, those of bits together and in their order', () => {
  const word = {
    ...field('WORD', 0, 16),
    bitRoles: [{ bit: 7, role: { is: 'fault reset', number: null } as const }],
  };
  const says = { field: 'f', sure: 0.9, reason: '', ask: false };
  const role = (is: 'control word' | 'start') => ({ is, number: null });
  const edit = takeRoles(image(word), [
    { ...says, bit: null, role: role('control word') },
    { ...says, bit: 0, role: role('start') },
  ]);
  expect(edit).toMatchObject({ edit: 'image.arrange', title: 'take 2 roles' });
  expect(edit.fields).toEqual([
    {
      ...word,
      role: { is: 'control word', number: null },
      bitRoles: [
        { bit: 0, role: { is: 'start', number: null } },
        { bit: 7, role: { is: 'fault reset', number: null } },
      ],
    },
  ]);
});
