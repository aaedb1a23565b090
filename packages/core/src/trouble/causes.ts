import type { Cause } from '../protocols/cause.js';
import { protocolById } from '../protocols/list.js';
import type { Symptoms } from '../protocols/symptoms.js';
import { commonCauses } from './commonCauses.js';

/** A value of the feedback image that cannot be right, for the cause that it speaks for. */
export interface Doubtful {
  field: string;
  why: string;
}

/** The likely causes of what is seen, the best first; none while all is well. */
export function causesOf(symptoms: Symptoms, doubtful: readonly Doubtful[] = []): Cause[] {
  const causes = [...commonCauses, ...protocolById(symptoms.protocol).causes].flatMap(
    ({ title, next, seen }): Cause[] => {
      const evidence = seen(symptoms);
      if (evidence.length === 0) return [];
      const weight = evidence.reduce((sum, [w]) => sum + w, 0);
      return [{ title, next, weight, evidence: evidence.map(([, text]) => text) }];
    },
  );
  if (doubtful.length > 0 && symptoms.state === 'open')
    causes.push({
      title: 'A value is out of range',
      evidence: doubtful.map(({ field, why }) => `${field}: ${why}`),
      next: 'Look at the sensor and its wiring; then at type, factor and limits of the field.',
      weight: 6,
    });
  return causes.sort((a, b) => b.weight - a.weight);
}
