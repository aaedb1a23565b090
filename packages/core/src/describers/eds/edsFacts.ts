import { fieldFact, parameterFact, type Fact } from '../fact.js';
import { connectionImages } from './connectionImages.js';
import type { Eds } from './eds.js';
import { parametersOf } from './edsParameters.js';

/** What an EDS says, thing by thing. */
export function edsFacts(describer: Eds): Fact[] {
  const { device } = describer;
  const [first] = connectionImages(describer);
  return [
    { section: 'identity', name: 'revision', text: `${device.majorRevision}.${device.minorRevision}` },
    ...(first
      ? (['command', 'feedback'] as const).flatMap((side) => [
          { section: `${side} image`, name: 'instance', text: String(first[side].instance) },
          { section: `${side} image`, name: 'size', text: `${first[side].size} bytes` },
          ...first[side].fields.map((f) => fieldFact(`${side} image`, f.name, f)),
        ])
      : []),
    ...parametersOf(describer, () => 'described').map(parameterFact),
  ];
}
