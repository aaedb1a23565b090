import type { ByteOrder } from '../layout/field.js';
import type { Cause } from '../protocols/cause.js';
import { protocolById } from '../protocols/list.js';
import type { Symptoms } from '../protocols/symptoms.js';
import { commonCauses } from './commonCauses.js';

/** A value of the feedback image that cannot be right, for the cause that it speaks for. */
export interface Doubtful {
  field: string;
  why: string;
  /** The byte order in which it would make sense. */
  order?: ByteOrder;
}

/** The likely causes of what is seen, the best first; none while all is well. */
export function causesOf(
  symptoms: Symptoms,
  doubtful: readonly Doubtful[] = [],
  stops: readonly string[] = [],
): Cause[] {
  const causes = [...commonCauses, ...protocolById(symptoms.protocol).causes].flatMap(
    ({ title, next, seen }): Cause[] => {
      const evidence = seen(symptoms);
      if (evidence.length === 0) return [];
      const weight = evidence.reduce((sum, [w]) => sum + w, 0);
      return [{ title, next, weight, evidence: evidence.map(([, text]) => text) }];
    },
  );
  if (symptoms.state !== 'open') return causes.sort((a, b) => b.weight - a.weight);
  if (stops.length > 0)
    causes.push({
      title: 'An emergency stop or a guard holds the device',
      evidence: stops.map((field) => `${field} is 0: it acts`),
      next: 'Release it where it was pressed or opened, then give the reset that the device needs.',
      // It explains a fault that the device reports, and comes before it.
      weight: 11,
    });
  const says = ({ field, why }: Doubtful) => `${field}: ${why}`;
  const [turned, others] = [doubtful.filter((d) => d.order), doubtful.filter((d) => !d.order)];
  if (turned.length > 0)
    causes.push({
      title: 'The bytes of a value come in another order',
      evidence: turned.map(says),
      next: 'Choose the byte order of the field, or of its image, in the Sight.',
      weight: 7,
    });
  if (others.length > 0)
    causes.push({
      title: 'A value is out of range',
      evidence: others.map(says),
      next: 'Look at the sensor and its wiring; then at type, factor and limits of the field.',
      weight: 6,
    });
  return causes.sort((a, b) => b.weight - a.weight);
}
