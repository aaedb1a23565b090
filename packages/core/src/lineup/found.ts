import { moduleStatus, networkStatus, type Indicator } from '../devices/indicators.js';
import { descriptionByHand } from '../cell/description.js';
import { unknownNameplate, type Cell, type Device } from '../cell/model.js';
import { unknownIdentity, type Identity } from '../devices/identity.js';
import { protocolById, protocolOf } from '../protocols/list.js';
import type { Edit } from '../cell/edits/edit.js';
import { finding, type Finding } from '../messages/finding.js';
import { subnetOf } from './addressPlan.js';

/** Where a device gets its address from: attribute 3 of the TCP/IP Interface object (CIP Vol. 2, 5-3.2.2.3). */
export type AddressSource = 'stored' | 'bootp' | 'dhcp';

/** What one device on the wire said of itself; null is what it did not say. */
export interface Found {
  protocol: string;
  /** Its address as the plan would write it. */
  address: string;
  /** Where it was reached: a stand-in lies in loopback. */
  at: string;
  port: number;
  maker: string | null;
  vendor: number | null;
  deviceType: number | null;
  productCode: number | null;
  majorRevision: number | null;
  minorRevision: number | null;
  productName: string;
  serialNumber: number | null;
  mac: string | null;
  /** Status word and state of the Identity object. */
  status: number | null;
  state: number | null;
  addressFrom: AddressSource | null;
  mask: string | null;
  gateway: string | null;
}

/** What can be done about a line of the comparison. */
export type Cure =
  | { do: 'edit'; title: string; edit: Edit }
  /** Over the wire: an address for the device that was reached at `at`. */
  | { do: 'set-address'; title: string; at: string; address: string }
  /** Over the wire: keep its address, and ask no server for it any more. */
  | { do: 'stop-asking'; title: string; at: string }
  /** Into the plan, as a device of its own. */
  | { do: 'add'; title: string; found: Found };

export type Verdict =
  | 'right'
  | 'asks'
  | 'wrong-revision'
  | 'wrong-identity'
  | 'two-at-address'
  | 'factory-address'
  | 'other-address'
  | 'missing'
  /** Its protocol is not asked: nobody knows. */
  | 'not-asked'
  | 'not-planned';

/** One line of found against planned. */
export interface Compared {
  verdict: Verdict;
  /** Id of the planned device; undefined for one that nobody planned. */
  device: string | undefined;
  /** What was found for it, none when it is missing, several at one address. */
  found: Found[];
  finding: Finding;
  cures: Cure[];
}

/** How many addresses a line names before it stops. */
const mostNamed = 4;

const same = <T>(found: T | null, planned: T) => found === null || found === planned;

/** The same product; a Modbus device says its product's name and no numbers. */
const sameProduct = (found: Found, { vendor, deviceType, productCode, productName }: Identity): boolean =>
  found.vendor === null
    ? found.productName !== '' && found.productName === productName
    : found.vendor === vendor && same(found.deviceType, deviceType) && same(found.productCode, productCode);

const sameRevision = (found: Found, { majorRevision, minorRevision }: Identity): boolean =>
  same(found.majorRevision, majorRevision) && same(found.minorRevision, minorRevision);

const revisionOf = ({ majorRevision, minorRevision }: Pick<Found, 'majorRevision' | 'minorRevision'>) =>
  `${majorRevision ?? '?'}.${minorRevision ?? '?'}`;
const whatIs = (f: Found) =>
  [f.productName || 'a device without a name', `revision ${revisionOf(f)}`].join(', ');
const plannedText = ({ productName, majorRevision, minorRevision }: Identity) =>
  `${productName || 'a device without a name'}, revision ${majorRevision}.${minorRevision}`;

/** What of an identity was found, over what was planned. */
const identityOf = (found: Found, planned: Identity): Identity => ({
  vendor: found.vendor ?? planned.vendor,
  deviceType: found.deviceType ?? planned.deviceType,
  productCode: found.productCode ?? planned.productCode,
  majorRevision: found.majorRevision || planned.majorRevision,
  minorRevision: found.minorRevision || planned.minorRevision,
  productName: found.productName || planned.productName,
});

/** MAC and serial number of what stands there, where they are known and not in the plan already. */
export function nameplateEdit(device: Device, found: Found): Edit | undefined {
  const set = {
    ...(found.mac && found.mac !== device.mac ? { mac: found.mac } : {}),
    ...(found.serialNumber !== null && found.serialNumber !== device.serialNumber
      ? { serialNumber: found.serialNumber }
      : {}),
  };
  return Object.keys(set).length > 0 ? { edit: 'device.set', device: device.id, set } : undefined;
}

/**
 * What was found on the wire against what was planned: one line for each planned device that is linked, in the order of
 * the plan, then one for each that nobody planned. A device that is not at its address is looked for elsewhere, first
 * at its factory address; one that was found is used for one line only.
 */
export function compareLineUp(cell: Cell, found: readonly Found[]): Compared[] {
  const linked = cell.devices.filter((d) => d.links.length > 0);
  const unused = new Set(found);
  const at = new Map(
    linked.map((device) => {
      const there = found.filter(
        (f) => f.address === device.address && device.links.some((l) => l.protocol === f.protocol),
      );
      there.forEach((f) => unused.delete(f));
      return [device.id, there];
    }),
  );
  const lines = linked.map((device) => {
    const there = at.get(device.id)!;
    // What is not spoken cannot be asked.
    if (!device.links.some((l) => protocolOf(l).scan.answers)) return notAsked(device);
    return there.length > 0 ? atItsAddress(device, there) : elsewhere(cell, device, unused);
  });
  const rest = [...unused];
  return [...lines, ...rest.map((f) => notPlanned(cell, f))];
}

function atItsAddress(device: Device, there: Found[]): Compared {
  const place = { device: device.id };
  const [first] = there as [Found];
  const { address, name, identity } = device;
  const line = (verdict: Verdict, said: Finding, cures: Cure[] = []): Compared => ({
    verdict,
    device: device.id,
    found: there,
    finding: said,
    cures,
  });
  const serials = new Set(there.map((f) => f.serialNumber));
  if (there.length > 1 && serials.size > 1)
    return line(
      'two-at-address',
      finding('wire.twoAtAddress', 'error', place, {
        device: name,
        address,
        serials: [...serials].map((s) => serialText(s)).join(' and '),
      }),
    );
  const take = (title: string, set: Partial<Identity>): Cure => ({
    do: 'edit',
    title,
    edit: { edit: 'device.set', device: device.id, set: { identity: { ...identity, ...set } } },
  });
  if (!sameProduct(first, identity)) {
    const facts = { device: name, planned: plannedText(identity), found: whatIs(first) };
    return line('wrong-identity', finding('wire.wrongIdentity', 'error', place, facts), [
      take('Take its identity into the plan', identityOf(first, identity)),
    ]);
  }
  if (!sameRevision(first, identity)) {
    const facts = {
      device: name,
      planned: `${identity.majorRevision}.${identity.minorRevision}`,
      found: revisionOf(first),
    };
    const { majorRevision, minorRevision } = identityOf(first, identity);
    return line('wrong-revision', finding('wire.wrongRevision', 'error', place, facts), [
      take(`Accept revision ${revisionOf(first)}`, { majorRevision, minorRevision }),
    ]);
  }
  if (first.addressFrom === 'bootp' || first.addressFrom === 'dhcp') {
    const facts = { device: name, address, method: first.addressFrom.toUpperCase() };
    return line('asks', finding('wire.asksOn', 'warning', place, facts), [
      { do: 'stop-asking', title: 'Let it keep this address', at: first.at },
    ]);
  }
  return line('right', finding('wire.right', 'notice', place, { device: name, address }));
}

function elsewhere(cell: Cell, device: Device, unused: Set<Found>): Compared {
  const place = { device: device.id };
  const { name, address, factoryAddress } = device;
  const candidates = [...unused].filter(
    (f) => device.links.some((l) => l.protocol === f.protocol) && sameProduct(f, device.identity),
  );
  // The one whose nameplate is known, then the one at its factory address, then the only one.
  const known = candidates.find(
    (f) => device.serialNumber !== null && f.serialNumber === device.serialNumber,
  );
  const fresh = candidates.find((f) => factoryAddress !== null && f.address === factoryAddress);
  const one = known ?? fresh ?? (candidates.length === 1 ? candidates[0] : undefined);
  if (!one) {
    const elsewhere = candidates
      .slice(0, mostNamed)
      .map((f) => f.address)
      .join(', ');
    return {
      verdict: 'missing',
      device: device.id,
      found: [],
      finding: finding('wire.missing', 'error', place, { device: name, address, elsewhere }),
      cures: [],
    };
  }
  unused.delete(one);
  const reach = protocolById(one.protocol).scan.setsAddress;
  const set: Cure[] = reach ? [{ do: 'set-address', title: `Assign ${address}`, at: one.at, address }] : [];
  if (one === fresh)
    return {
      verdict: 'factory-address',
      device: device.id,
      found: [one],
      finding: finding('wire.factoryAddress', 'error', place, { device: name, address, found: one.address }),
      cures: set,
    };
  const take: Cure = {
    do: 'edit',
    title: `Take ${one.address} into the plan`,
    edit: { edit: 'device.set', device: device.id, set: { address: one.address } },
  };
  const takeable =
    subnetOf(cell.network, one.address) && !cell.devices.some((d) => d.address === one.address);
  return {
    verdict: 'other-address',
    device: device.id,
    found: [one],
    finding: finding('wire.otherAddress', 'error', place, { device: name, address, found: one.address }),
    cures: [...set, ...(takeable ? [take] : [])],
  };
}

function notAsked({ id, name, address, links }: Device): Compared {
  const protocols = [...new Set(links.map((l) => protocolOf(l).title))].join(', ');
  const said = finding('wire.notAsked', 'notice', { device: id }, { device: name, address, protocols });
  return { verdict: 'not-asked', device: id, found: [], finding: said, cures: [] };
}

function notPlanned(cell: Cell, found: Found): Compared {
  const facts = { address: found.address, found: whatIs(found) };
  const inPlan = cell.devices.some((d) => d.address === found.address);
  return {
    verdict: 'not-planned',
    device: undefined,
    found: [found],
    finding: finding('wire.notPlanned', 'warning', {}, facts),
    cures: inPlan ? [] : [{ do: 'add', title: 'Take it into the plan', found }],
  };
}

/**
 * What its lights should show, by the status that it reported (CIP Vol. 2, 9-4); none for a device that reports none.
 */
export function lightsOf({ status, state, address }: Found): Indicator[] {
  if (status === null) return [];
  const links = (status >> 4) & 0xf;
  const [idle, runs] = [links === 7, links === 6];
  const network = {
    connections: idle || runs ? 1 : 0,
    timedOut: links === 2,
    conflict: false,
    linkUp: true,
    address,
    run: runs,
    powered: true,
    majorRevision: 1,
    minorRevision: 1,
  };
  const major = (status & 0x0c00) !== 0;
  const minor = (status & 0x0300) !== 0 || state === recoverableFault;
  return [moduleStatus(major ? 'major' : minor ? 'minor' : 'good', network), networkStatus(network)];
}
/** Device state 4 (CIP Vol. 1, 5-2.2.1.8). */
const recoverableFault = 4;

export const serialText = (serial: number | null): string =>
  serial === null ? 'no serial number' : `16#${serial.toString(16).toUpperCase().padStart(8, '0')}`;

/** A device for something that was found, with no link yet: what its images are is not known from the wire. */
export function deviceFound(found: Found, name: string, newId: () => string): Device {
  return {
    id: newId(),
    name,
    designation: '',
    kind: 'other',
    maker: found.maker ?? '',
    serves: '',
    address: found.address,
    ...unknownNameplate,
    mac: found.mac ?? '',
    serialNumber: found.serialNumber,
    identity: identityOf(found, unknownIdentity),
    description: {
      ...descriptionByHand([]),
      identity: found.vendor === null ? null : identityOf(found, unknownIdentity),
    },
    simulated: false,
    orderSelectable: false,
    links: [],
  };
}
