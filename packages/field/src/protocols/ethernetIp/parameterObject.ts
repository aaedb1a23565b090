import type { Parameter } from '@fadenkreuz/core';
import {
  hasTexts,
  parameterAttributes,
  parametersSaid,
  type ParameterAttribute,
  type SaidParameter,
} from '@fadenkreuz/core/describers';
import { classes, logical, services } from '@fadenkreuz/core/ethernet-ip';
import { ExplicitClient, type ExplicitClientOptions } from './explicitClient.js';

/** A device has no more parameters than these. */
const mostInstances = 4000;
/** So many that do not exist follow each other before the list counts as over: makers leave gaps. */
const mostGap = 200;
/** Values that have texts: bits have 64, and choices seldom more; numbers of poles go by twos. */
const mostTexts = 64;
const mostTextGap = 8;

/**
 * The parameters that a device tells of by its Parameter object (CIP Vol. 1, 5-14): the class says its highest
 * instance, each instance its name, type, limits, scaling and texts. Empty for a device without that object. Rejects
 * when it cannot be reached, or falls silent.
 */
export async function readParameterObject(
  options: ExplicitClientOptions,
  newId: () => string,
): Promise<Parameter[]> {
  const client = await ExplicitClient.open(options);
  try {
    const get = async (instance: number, attribute: number) => {
      const path = [
        logical('class', classes.parameter),
        logical('instance', instance),
        logical('attribute', attribute),
      ];
      const answer = await client.request({ service: services.getAttributeSingle, path, data: nothing });
      return answer.status === 0 ? answer.data : undefined;
    };
    const highest = await get(0, 2);
    const last = Math.min(
      highest && highest.length >= 2 ? highest[0]! | (highest[1]! << 8) : 0,
      mostInstances,
    );
    const said: SaidParameter[] = [];
    for (let instance = 1, gap = 0; instance <= last && gap < mostGap; instance += 1) {
      const attributes: SaidParameter['attributes'] = {};
      for (const [name, number] of Object.entries(parameterAttributes) as [ParameterAttribute, number][]) {
        const bytes = await get(instance, number);
        if (bytes) attributes[name] = bytes;
        // Without a descriptor there is no such instance.
        else if (name === 'descriptor') break;
      }
      gap = attributes.descriptor ? 0 : gap + 1;
      if (!attributes.descriptor) continue;
      const one: SaidParameter = { instance, attributes, labels: [] };
      said.push(hasTexts(one) ? { ...one, labels: await textsOf(client, instance) } : one);
    }
    return parametersSaid(said, newId);
  } finally {
    await client.close();
  }
}

/** Texts of values by Get_Enum_String, from 0 on; a wide gap ends them. */
async function textsOf(client: ExplicitClient, instance: number): Promise<{ value: number; text: string }[]> {
  const texts: { value: number; text: string }[] = [];
  const path = [logical('class', classes.parameter), logical('instance', instance)];
  for (let value = 0; value < mostTexts; value += 1) {
    const { status, data } = await client.request({
      service: services.getEnumString,
      path,
      data: Uint8Array.of(value),
    });
    const size = data[0] ?? 0;
    if (status === 0 && size > 0)
      texts.push({ value, text: String.fromCharCode(...data.subarray(1, 1 + size)) });
    else if (value - (texts.at(-1)?.value ?? 0) > mostTextGap) break;
  }
  return texts;
}
const nothing = new Uint8Array();
