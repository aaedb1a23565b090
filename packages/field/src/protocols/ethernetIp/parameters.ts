import type { EthernetIpLink, ParameterPlace } from '@fadenkreuz/core';
import { logical, refusalOf, services, statusText } from '@fadenkreuz/core/ethernet-ip';
import type { LinkEnds } from '../ends.js';
import { parameterAccess, refused, type ParameterAccess } from '../parameterAccess.js';
import type { LinkContext } from '../runningLink.js';
import { clientOptions, ExplicitClient } from './explicitClient.js';

/** Parameters as attributes of objects: Get_ and Set_Attribute_Single (CIP Vol. 1, appendix A-4), unconnected. */
export function ethernetIpParameters(
  ends: LinkEnds<EthernetIpLink>,
  { tap, reach }: Pick<LinkContext, 'tap' | 'reach'>,
): ParameterAccess {
  const ask = async (client: ExplicitClient, service: number, place: ParameterPlace, data: Uint8Array) => {
    if (place.way !== 'attribute') throw new Error('asked for another place');
    const path = [
      logical('class', place.class),
      logical('instance', place.instance),
      logical('attribute', place.attribute),
    ];
    const answer = await client.request({ service, path, data });
    const { status, extended } = answer;
    if (status === 0) return answer.data;
    const { means: says, cure } = statusText(status, extended);
    throw refused(ends, place, refusalOf(status), { says, cure });
  };
  return parameterAccess(ends, {
    open: () => ExplicitClient.open({ ...clientOptions(ends), tap, reach }),
    read: (client, place) =>
      place.way === 'attribute'
        ? ask(client, services.getAttributeSingle, place, new Uint8Array())
        : undefined,
    write: (client, place, value) =>
      place.way === 'attribute'
        ? ask(client, services.setAttributeSingle, place, value).then(() => undefined)
        : undefined,
  });
}
