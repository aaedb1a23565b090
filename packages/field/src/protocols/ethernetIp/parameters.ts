import type { EthernetIpLink, ParameterPlace } from '@fadenkreuz/core';
import { atPort, type PortRequests } from '@fadenkreuz/core/devices';
import {
  isduError,
  logical,
  refusalOf,
  services,
  statusText,
  type RouterRequest,
} from '@fadenkreuz/core/ethernet-ip';
import { HeardFrames } from '../../capture/heardFrames.js';
import type { LinkEnds } from '../ends.js';
import { parameterAccess, refused, type ParameterAccess } from '../parameterAccess.js';
import type { LinkContext } from '../runningLink.js';
import {
  clientOptions,
  ExplicitClient,
  madeRequest,
  unconnectedResponse,
  type MadeRequest,
} from './explicitClient.js';

/**
 * Parameters as attributes of objects: Get_ and Set_Attribute_Single (CIP Vol. 1, appendix A-4), unconnected; those of
 * devices at the ports of an IO-Link master through the service that its description names.
 */
export function ethernetIpParameters(
  ends: LinkEnds<EthernetIpLink>,
  { tap, reach }: Pick<LinkContext, 'tap' | 'reach'>,
): ParameterAccess {
  const ports = ends.device.description.portRules?.requests ?? null;
  // A place is read again and again.
  const reads = new WeakMap<ParameterPlace, MadeRequest>();
  const readOf = (place: ParameterPlace): MadeRequest | undefined => {
    const made = reads.get(place);
    if (made) return made;
    const request = requestFor(place, ports);
    if (!request) return undefined;
    reads.set(place, madeRequest(request));
    return reads.get(place);
  };
  const ask = (client: ExplicitClient, place: ParameterPlace, request: MadeRequest) =>
    client.requestMade(request, (answer) => {
      const { status, extended, data } = unconnectedResponse(answer);
      if (status === 0) return data;
      // What the device at a port says stands behind the status of the master.
      const [error] = extended;
      if (place.way === 'port' && error !== undefined) {
        const { refusal, means: says, cure } = isduError(error);
        throw refused(ends, place, refusal, { says, cure });
      }
      const { means: says, cure } = statusText(status, extended);
      throw refused(ends, place, refusalOf(status), { says, cure });
    });
  const frames = new HeardFrames(tap);
  return parameterAccess(ends, {
    frames,
    open: () => ExplicitClient.open({ ...clientOptions(ends), tap: frames, reach }),
    busy: (client) => client.busy,
    read: (client, place) => {
      const request = readOf(place);
      return request && ask(client, place, request);
    },
    write: (client, place, value) => {
      const request = requestFor(place, ports, value);
      return request && ask(client, place, madeRequest(request)).then(() => undefined);
    },
  });
}

/** The request that reads a place, or writes a value to it; undefined for one that is reached in another way. */
export function requestFor(
  place: ParameterPlace,
  ports: PortRequests | null,
  value?: Uint8Array,
): RouterRequest | undefined {
  if (place.way === 'attribute') {
    const { getAttributeSingle, setAttributeSingle } = services;
    return {
      service: value ? setAttributeSingle : getAttributeSingle,
      path: [
        logical('class', place.class),
        logical('instance', place.instance),
        logical('attribute', place.attribute),
      ],
      data: value ?? nothing,
    };
  }
  if (place.way !== 'port' || ports?.by !== 'service') return undefined;
  const head = new Uint8Array(3);
  new DataView(head.buffer).setUint16(0, place.index, ports.order === 'little');
  head[2] = place.subindex;
  return {
    service: value ? ports.write : ports.read,
    path: [
      logical('class', ports.class),
      logical('instance', atPort(ports.instance, place.port)),
      ...(ports.attribute === null ? [] : [logical('attribute', ports.attribute)]),
    ],
    data: value ? Uint8Array.of(...head, ...value) : head,
  };
}
const nothing = new Uint8Array();
