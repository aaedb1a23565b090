import { identifierOf } from '../entries/identifiers.js';
import type { Field } from '../layout/field.js';
import { derivedOf } from '../layout/derived.js';
import { parseExpression } from '../layout/expression.js';
import { deviceNotation, notationsOf } from '../layout/address.js';
import { reachOf, signalEnd, signalsInside, signalsOf } from '../layout/signals.js';
import { finding } from '../messages/finding.js';
import { Problem } from '../messages/problem.js';
import { placeOf, titleOf } from './fieldRules.js';
import { eachImage } from './rule.js';

/** How addresses are numbered, and what is computed from them. */

/**
 * Fields lie past the end by no more than one unit of the manual's numbers, and the first unit is empty: the manual
 * counts from 1 where 0 was taken, and all fields lie one unit too far back.
 */
export const baseDoubtful = eachImage((place, cell) => {
  const { device, image } = place;
  if (signalsOf(image).every((s) => signalEnd(s) <= image.size * 8)) return [];
  const past = image.fields.filter((f) => reachOf(image, f) > image.size * 8);
  const notation = deviceNotation({ ...cell, device, image });
  const unit = notation.unitBits === 'element' || notation.unitBits === 'field' ? 8 : notation.unitBits;
  const moved = image.fields.map((f): Field => ({ ...f, at: f.at - unit }));
  if (moved.some((f) => f.at < 0) || moved.some((f) => reachOf(image, f) > image.size * 8)) return [];
  const facts = {
    image: titleOf(place),
    field: past[0]!.name,
    unitBits: unit,
    fields: image.fields.length,
  };
  return finding('image.baseDoubtful', 'warning', placeOf(place, past[0]!.id), facts, {
    title: `Move all fields forward by ${unit === 1 ? 'one bit' : `${unit / 8} byte${unit === 8 ? '' : 's'}`}`,
    edit: { edit: 'image.arrange', image: image.id, title: 'count addresses from 1', fields: moved },
  });
});

/** A signal range that would end past the image with its points counted from 1, but inside it counted from 0. */
export const rangeBaseDoubtful = eachImage((place) => {
  const { image } = place;
  const { numbering } = image;
  if (!numbering) return [];
  return numbering.signals.flatMap((range) => {
    const over = range.point - 1 + range.count - image.size * 8;
    if (over <= 0) return [];
    const last = range.first + range.count - 1;
    const facts = {
      image: titleOf(place),
      first: range.first,
      last,
      point: range.point,
      bits: image.size * 8,
    };
    if (over > 1 || range.point < 2) return finding('image.rangePastEnd', 'error', placeOf(place), facts);
    const signals = numbering.signals.map((r) => (r === range ? { ...r, point: r.point - 1 } : r));
    return finding(
      'image.rangeBaseDoubtful',
      'warning',
      placeOf(place),
      { ...facts, start: range.point - 1 },
      {
        title: `Start at point ${range.point - 1}`,
        edit: { edit: 'image.set', image: image.id, set: { numbering: { ...numbering, signals } } },
      },
    );
  });
});

/** A block that is numbered anew begins where no unit or no field does: its base was taken from another count. */
export const blockBaseDoubtful = eachImage((place, cell) => {
  const { device, image } = place;
  const { blocks } = image.numbering ?? { blocks: [] };
  if (blocks.length === 0) return [];
  const { unitBits } = deviceNotation({ ...cell, device, image });
  const unitBytes = typeof unitBits === 'number' ? Math.max(1, unitBits / 8) : 1;
  const bytes = image.size;
  return blocks.flatMap(({ name: block, at }) => {
    const facts = { image: titleOf(place), block, at };
    if (at >= bytes) return finding('image.blockOutside', 'error', placeOf(place), { ...facts, size: bytes });
    if (at % unitBytes !== 0)
      return finding('image.blockOffUnit', 'warning', placeOf(place), { ...facts, unitBytes });
    const cut = signalsInside(image).find((s) => s.at < at * 8 && at * 8 < signalEnd(s));
    if (!cut) return [];
    const [before, behind] = [cut.at >> 3, Math.ceil(signalEnd(cut) / 8)].map((byte) => `byte ${byte}`);
    return finding('image.blockCutsField', 'warning', placeOf(place, cut.of), {
      ...facts,
      field: cut.name,
      before: before!,
      behind: behind!,
    });
  });
});

/** An image is numbered in a way that nobody describes. */
export const notationUnknown = eachImage((place, cell) => {
  const wanted = place.image.numbering?.notation;
  if (!wanted || notationsOf(cell).some((n) => n.id === wanted && n.side === 'device')) return [];
  const facts = { image: titleOf(place), notation: wanted };
  const numbering = { ...place.image.numbering!, notation: 'byte' };
  return finding('image.notationUnknown', 'warning', placeOf(place), facts, {
    title: 'Number it by byte and bit',
    edit: { edit: 'image.set', image: place.image.id, set: { numbering } },
  });
});

/** A derived value that cannot be computed. */
export const derivedWrong = eachImage((place) => {
  const { image } = place;
  const values = derivedOf(image);
  if (values.length === 0) return [];
  const signals = signalsInside(image).map((s) => identifierOf(s.name));
  return values.flatMap((derived, i) => {
    // A derived value may use those that stand before it.
    const known = new Set([...signals, ...values.slice(0, i).map((d) => identifierOf(d.name))]);
    const facts = { image: titleOf(place), name: derived.name };
    try {
      const missing = [derived.expression, derived.uncertainty]
        .filter(Boolean)
        .flatMap((text) => parseExpression(text).names.filter((name) => !known.has(name)));
      return missing.length
        ? finding('derived.nameUnknown', 'error', placeOf(place), { ...facts, missing: missing.join(', ') })
        : [];
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      return finding('derived.wrong', 'error', placeOf(place), { ...facts, reason: error.message });
    }
  });
});
