import { Reader } from '../../../bytes/reader.js';
import type { DescribedParameter } from '../../../devices/plain/parameters.js';
import { atPort, type PortRequests } from '../../../devices/ports.js';
import { isduCode } from '../../../devices/isduErrors.js';
import type { CipClass, CipInstance, Outcome } from '../objectModel.js';
import { generalStatus } from '../status.js';

type ByService = Extract<PortRequests, { by: 'service' }>;

/** Where a value is asked for at a port. */
export interface PortIndex {
  index: number;
  subindex: number;
}

/** The object through which requests reach the devices at the ports of an IO-Link master, as it is described. */
export function portObject(
  requests: PortRequests | null,
  described: readonly DescribedParameter[],
): CipClass | undefined {
  if (requests?.by !== 'service') return undefined;
  const ports = new Map<number, DescribedParameter[]>();
  for (const one of described) {
    const { place } = one.parameter;
    if (place?.way === 'port') ports.set(place.port, [...(ports.get(place.port) ?? []), one]);
  }
  const instances = new Map(
    [...ports]
      .sort(([a], [b]) => a - b)
      .map(([port, own]) => [atPort(requests.instance, port), portInstance(requests, own)]),
  );
  return {
    id: requests.class,
    numbers: () => [...instances.keys()],
    instance: (number) => instances.get(number),
  };
}

const portInstance = (requests: ByService, own: readonly DescribedParameter[]): CipInstance => {
  const find = (reader: Reader) => {
    const index = requests.order === 'big' ? reader.u16be() : reader.u16();
    const subindex = reader.u8();
    return own.find(
      ({ parameter: { place } }) =>
        place?.way === 'port' && place.index === index && place.subindex === subindex,
    );
  };
  return {
    attributes: {},
    services: {
      [requests.read]: ({ data }) => {
        const one = find(new Reader(data, 'request to a port'));
        if (!one) return refusal('absent');
        if (one.silent) return refusal(one.silent);
        return one.parameter.access === 'write' ? refusal('read-only') : { data: one.bytes };
      },
      [requests.write]: ({ data }) => {
        const reader = new Reader(data, 'request to a port');
        const one = find(reader);
        const refused = one ? one.write(reader.rest()) : 'absent';
        return refused ? refusal(refused) : {};
      },
    },
  };
};

/** The error of the IO-Link device stands in the extended status. */
const refusal = (why: Parameters<typeof isduCode>[0]): Outcome => ({
  status: generalStatus.vendorSpecific,
  extended: [isduCode(why)],
});
