import type { ImagePlace } from '../cell/find.js';
import type { Field } from '../layout/field.js';
import { isNumber, limitsOf, readsOf } from '../layout/fieldTypes.js';
import { nearestWhole, ratio, ratioNumber } from '../layout/ratio.js';
import { asSignal, reachOf } from '../layout/signals.js';
import { decimalsOf, rangeOf } from '../layout/valueChain.js';
import { finding, type Finding } from '../messages/finding.js';
import { placeOf, titleOf } from './fieldRules.js';
import { eachImage, type Rule } from './rule.js';

/** What the chain from raw number to value lacks or contradicts. */

/** Fewer steps than this between the limits of a value are called coarse. */
const fineSteps = 20;

const eachField = (rule: (field: Field, place: ImagePlace) => Finding | undefined): Rule =>
  eachImage((place) => place.image.fields.flatMap((field) => rule(field, place) ?? []));

const facts = (field: Field, place: ImagePlace) => ({ image: titleOf(place), field: field.name });

/** The sign of a magnitude is in a field or a bit that does not exist. */
export const signNowhere = eachField((field, place) => {
  if (field.sign?.way !== 'bit') return undefined;
  const { sign } = field;
  const other = place.image.fields.find((f) => f.id === sign.field);
  if (other && sign.bit < other.bits && reachOf(place.image, other) <= place.image.size * 8) return undefined;
  const where = other
    ? `bit ${sign.bit} of ${other.name}, which has ${other.bits} bits`
    : 'a field that is gone';
  return finding('field.signNowhere', 'error', placeOf(place, field.id), { ...facts(field, place), where });
});

/** What a bit is called after a number when it holds its sign. */
const signNames = ['negative', 'minus', 'sign', 'neg'].flatMap((word) =>
  ['_', ' ', '-', ''].map((gap) => gap + word),
);

/** A field beside it is called after its sign, and nothing says that the two belong together. */
export const signUnused = eachImage((place) => {
  const { fields } = place.image;
  const bits = new Map(fields.filter((f) => f.type === 'BOOL').map((f) => [f.name.toLowerCase(), f]));
  if (bits.size === 0) return [];
  return fields.flatMap((field) => {
    if (field.sign || field.bits < 8 || !['unsigned', 'bcd'].includes(readsOf(field))) return [];
    const name = field.name.toLowerCase();
    const word = signNames.find((n) => bits.has(name + n));
    const bit = word === undefined ? undefined : bits.get(name + word);
    if (!bit) return [];
    const sign = { way: 'bit', field: bit.id, bit: 0, inverted: false } as const;
    return finding(
      'field.signUnused',
      'warning',
      placeOf(place, field.id),
      { ...facts(field, place), sign: bit.name },
      {
        title: `Take the sign from ${bit.name}`,
        edit: { edit: 'field.set', image: place.image.id, field: field.id, set: { sign } },
      },
    );
  });
});

/** The decimal point is said by a field that does not exist or is no number. */
export const decimalsNowhere = eachField((field, place) => {
  const { decimals } = field;
  if (decimals?.way !== 'field') return undefined;
  const other = place.image.fields.find((f) => f.id === decimals.field);
  if (other && isNumber(other)) return undefined;
  return finding('field.decimalsNowhere', 'error', placeOf(place, field.id), facts(field, place));
});

/** A number is scaled, but nobody says into what. */
export const unitMissing = eachField((field, place) =>
  field.scale && !field.unit
    ? finding('field.unitMissing', 'notice', placeOf(place, field.id), facts(field, place))
    : undefined,
);

/** Limits that the raw numbers cannot reach, or that have only a few raw numbers between them. */
export const limitsAgainstRange = eachField((field, place) => {
  const { minimum, maximum } = field.limits ?? { minimum: null, maximum: null };
  if (!isNumber(field) || readsOf(field) === 'float' || (minimum === null && maximum === null))
    return undefined;
  const signal = asSignal(field);
  const range = rangeOf(signal);
  const beyond =
    (minimum !== null && ratio(minimum).compare(ratio(range.minimum)) < 0) ||
    (maximum !== null && ratio(maximum).compare(ratio(range.maximum)) > 0);
  const limits = `${minimum ?? '…'} to ${maximum ?? '…'}`;
  if (beyond)
    return finding('field.limitsOutOfRange', 'error', placeOf(place, field.id), {
      ...facts(field, place),
      limits,
      range: `${range.minimum} to ${range.maximum}`,
    });
  if (minimum === null || maximum === null || !field.scale) return undefined;
  const steps = nearestWhole(ratio(maximum).sub(ratio(minimum)).div(ratio(field.scale.factor)).abs());
  return steps < fineSteps && decimalsOf(signal) < 15
    ? finding('field.coarseSteps', 'warning', placeOf(place, field.id), {
        ...facts(field, place),
        limits,
        steps: Number(steps),
      })
    : undefined;
});

/** A factor turns the raw numbers into values that a REAL of the controller cannot tell apart (IEEE 754 binary32). */
export const factorTooFine = eachField((field, place) => {
  if (!field.scale || readsOf(field) === 'float' || field.bits > 16) return undefined;
  const { minimum, maximum } = limitsOf(field.type, field.bits);
  const factor = Math.abs(ratioNumber(field.scale.factor));
  const offset = Math.abs(ratioNumber(field.scale.offset));
  const greatest = Math.max(Math.abs(Number(minimum)), Number(maximum)) * factor + offset;
  // 24 bits of significand: neighbouring values below 2^e lie 2^(e-24) apart.
  const gap = 2 ** (Math.ceil(Math.log2(greatest)) - 24);
  return gap > factor
    ? finding('field.factorTooFine', 'warning', placeOf(place, field.id), {
        ...facts(field, place),
        factor: field.scale.factor,
        greatest: String(Number(greatest.toPrecision(6))),
      })
    : undefined;
});

/** Labels, special numbers and bit texts for raw numbers or bits that the field does not have. */
export const labelsOutside = eachField((field, place) => {
  if (readsOf(field) === 'text' || readsOf(field) === 'bytes' || readsOf(field) === 'float') return undefined;
  const { minimum, maximum } = limitsOf(field.type, field.bits);
  const outside = [
    ...[...field.labels, ...field.specials]
      .filter((l) => l.value < minimum || l.value > maximum)
      .map((l) => String(l.value)),
    ...field.bitLabels.filter((l) => l.bit >= field.bits).map((l) => `bit ${l.bit}`),
  ];
  if (outside.length === 0) return undefined;
  const inside = ({ value }: { value: number }) => value >= minimum && value <= maximum;
  const set = {
    labels: field.labels.filter(inside),
    specials: field.specials.filter(inside),
    bitLabels: field.bitLabels.filter((l) => l.bit < field.bits),
  };
  return finding(
    'field.labelOutside',
    'warning',
    placeOf(place, field.id),
    {
      ...facts(field, place),
      values: outside.join(', '),
      minimum: String(minimum),
      maximum: String(maximum),
    },
    {
      title: 'Take these texts away',
      edit: { edit: 'field.set', image: place.image.id, field: field.id, set },
    },
  );
});

/** A safety function is reported by a device that is no safety device: it informs, and nothing may rely on it. */
export const safetyFeedback = eachField((field, place) =>
  field.safety && place.image.direction === 'feedback' && place.device.kind !== 'safety controller'
    ? finding('field.safetyFeedback', 'warning', placeOf(place, field.id), {
        ...facts(field, place),
        kind: place.device.kind,
      })
    : undefined,
);

/** A safety-related field is commanded over a standard protocol, which carries no safety function. */
export const safetyCommand = eachField((field, place) =>
  field.safety && place.image.direction === 'command'
    ? finding('field.safetyCommand', 'error', placeOf(place, field.id), facts(field, place))
    : undefined,
);
