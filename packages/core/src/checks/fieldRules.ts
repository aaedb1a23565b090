import { elementsOf } from '../cell/scene.js';
import { countUp } from '../entries/countUp.js';
import type { ImagePlace } from '../cell/find.js';
import { imageTitle } from '../layout/image.js';
import { chunksOf } from '../layout/elementChunks.js';
import { isNumber } from '../layout/fieldTypes.js';
import { overlapsIn } from '../layout/placement.js';
import { signalEnd, signalsInside, signalsOf, type Signal } from '../layout/signals.js';
import { finding, type Finding } from '../messages/finding.js';
import { eachImage, groupsBy, type Rule } from './rule.js';

/** Where the fields of an image lie: shared bits, ends, names, and the controller's elements. */

export const placeOf = ({ device, image }: ImagePlace, field?: string) => ({
  device: device.id,
  image: image.id,
  ...(field ? { field } : {}),
});
export const titleOf = ({ device, image }: ImagePlace) => imageTitle(device, image.direction);

/** One finding at most for each field, however often it is repeated: the first signal that the test picks. */
const firstOfField = (picks: (signal: Signal, place: ImagePlace) => Finding | undefined): Rule =>
  eachImage((place) => {
    const found = new Map<string, Finding>();
    for (const signal of signalsOf(place.image)) {
      const picked = picks(signal, place);
      if (picked && !found.has(signal.of)) found.set(signal.of, picked);
    }
    return [...found.values()];
  });

/** Two fields of one image use the same bits. */
export const fieldOverlap = eachImage((place) =>
  groupsBy(overlapsIn(signalsOf(place.image)), (o) => `${o.first.of} ${o.second.of}`).map(([overlap]) => {
    const { first, second, fromBit, toBit } = overlap!;
    const facts = { image: titleOf(place), first: first.name, second: second.name, fromBit, toBit };
    return finding('field.overlap', 'error', placeOf(place, second.of), facts);
  }),
);

/** A field reaches past the last byte of its image. */
export const fieldPastEnd = firstOfField((signal, place) => {
  const { size } = place.image;
  if (signalEnd(signal) <= size * 8) return undefined;
  const endsAtByte = (signalEnd(signal) - 1) >> 3;
  const facts = { image: titleOf(place), field: signal.name, endsAtByte, size };
  return finding('field.pastEnd', 'error', placeOf(place, signal.of), facts);
});

/** Two fields of one image have the same name; capitals do not tell them apart in IEC 61131-3 (6.1.2). */
export const fieldNameTwice = eachImage((place) =>
  groupsBy(signalsOf(place.image), (s) => s.name.toLowerCase())
    .filter((group) => new Set(group.map((s) => s.of)).size > 1)
    .map((group) => {
      const second = group.find((s) => s.of !== group[0]!.of)!;
      const facts = { image: titleOf(place), name: group[0]!.name, count: group.length };
      return finding('field.nameTwice', 'warning', placeOf(place, second.of), facts, renamed(place, second));
    }),
);

/** The edit that gives a field the next free name, counted up. */
function renamed({ image }: ImagePlace, signal: Signal): Finding['fix'] {
  const field = image.fields.find((f) => f.id === signal.of)!;
  const taken = new Set(image.fields.map((f) => f.name.toLowerCase()));
  let name = countUp(field.name, 1);
  while (taken.has(name.toLowerCase())) name = countUp(name, 1);
  return {
    title: `Call it ${name}`,
    edit: { edit: 'field.set', image: image.id, field: field.id, set: { name } },
  };
}

/** Values that one element of the controller could hold lie across two. */
export const fieldsStraddle = eachImage((place, cell) => {
  const form = elementsOf(cell, place.link);
  const { elementBits } = form;
  const across = signalsInside(place.image).filter(
    (signal) =>
      isNumber(signal) &&
      signal.bits > 1 &&
      signal.bits <= elementBits &&
      // All in one element, before any swap of bytes: the usual case, found without looking at the bytes.
      !(
        Math.floor(signal.at / elementBits) === Math.floor((signalEnd(signal) - 1) / elementBits) &&
        elementBits > 8
      ) &&
      new Set(chunksOf(signal, place.image, form).map((c) => c.element)).size > 1,
  );
  const [first] = across;
  if (!first) return [];
  const facts = { image: titleOf(place), fields: across.length, first: first.name, elementBits };
  return finding('image.straddles', 'notice', placeOf(place, first.of), facts);
});

/** A value of several bytes begins at an odd byte of an image whose words are swapped on the way. */
export const fieldOddUnderSwap = firstOfField((signal, place) => {
  if (!place.image.swapped || !isNumber(signal) || signal.bits <= 8 || (signal.at >> 3) % 2 === 0)
    return undefined;
  const facts = { image: titleOf(place), field: signal.name, byte: signal.at >> 3 };
  return finding('field.oddUnderSwap', 'warning', placeOf(place, signal.of), facts);
});

/** A device that can send in either byte order, and an image that does not say in which. */
export const orderNotStated = eachImage((place) => {
  const { device, image } = place;
  if (!device.orderSelectable || image.order) return [];
  const open = image.fields.filter((f) => f.order === null && isNumber(f) && f.bits > 8);
  if (open.length === 0) return [];
  const facts = { image: titleOf(place), device: device.name, fields: open.length, first: open[0]!.name };
  return finding('image.orderNotStated', 'warning', placeOf(place, open[0]!.id), facts, {
    title: 'State little-endian, as it is read now',
    edit: { edit: 'image.set', image: image.id, set: { order: 'little' } },
  });
});

const halves = /^(.*?)[_ -]?(low|lo|lsw|high|hi|msw)(?:[_ -]?(?:word|byte))?$/i;

/** The low and the high half of one value, named so, do not lie side by side. */
export const fieldHalvesApart = eachImage((place) => {
  const named = signalsInside(place.image).flatMap((signal) => {
    const match = isNumber(signal) ? halves.exec(signal.name) : null;
    return match ? [{ signal, stem: match[1]!.toLowerCase() }] : [];
  });
  return groupsBy(named, (n) => n.stem).flatMap((group) => {
    const [first, second] = group.map((n) => n.signal);
    if (group.length !== 2 || signalEnd(first!) === second!.at) return [];
    const between = second!.at - signalEnd(first!);
    const facts = { image: titleOf(place), first: first!.name, second: second!.name, bits: between };
    return between > 0 ? finding('field.halvesApart', 'notice', placeOf(place, second!.of), facts) : [];
  });
});
