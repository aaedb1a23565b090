import type { Cell, Device } from '../cell/model.js';
import type { Condition, Exchange, Order, Place, Step } from '../cell/exchange.js';
import { imagesOf } from '../cell/find.js';
import { codecOf } from '../layout/codec.js';
import type { Image } from '../layout/image.js';
import { rolePlaces } from '../layout/rolePlaces.js';
import { factsOfRole } from '../layout/role.js';
import type { Signal } from '../layout/signals.js';
import { readsOf } from '../layout/fieldTypes.js';
import type { Plain } from './images.js';

/**
 * A draft of an exchange from what was done by hand: each change of a command becomes an order, what the device
 * answered before the next command becomes what the step waits for. Values that change by themselves, as measurements
 * do, are left out.
 */

/** The bytes that an image had from a moment on, ms. */
export interface HeardImage {
  at: number;
  image: string;
  bytes: Uint8Array;
}

/** Commands that come so near to each other are one step, ms. */
const togetherMs = 150;
/** A value that changes more often than so in a recording is measured, not answered. */
const mostChanges = 6;
/** A limit is so many times what was seen, and no less than so, ms. */
const limitFactor = 5;
const leastLimit = 500;

interface Change {
  at: number;
  place: Place;
  value: Plain;
}

/** The draft; `name` names it. Empty of steps where nothing was commanded. */
export function draftFrom(
  { devices }: Pick<Cell, 'devices'>,
  heard: readonly HeardImage[],
  name: string,
  newId: () => string,
): Exchange {
  const changes = changesOf(devices, heard).sort((a, b) => a.at - b.at);
  const often = new Map<string, number>();
  for (const { place } of changes) often.set(keyOf(place), (often.get(keyOf(place)) ?? 0) + 1);
  const told = changes.filter((c) => c.place.side === 'command');
  const answered = changes.filter(
    (c) => c.place.side === 'feedback' && often.get(keyOf(c.place))! <= mostChanges,
  );
  const groups = grouped(told);
  const steps = groups.map((group, i): Step => {
    const begin = group[0]!.at;
    const end = groups[i + 1]?.[0]!.at ?? Infinity;
    const seen = lastOfEach(answered.filter((c) => c.at >= begin && c.at < end));
    return stepOf(lastOfEach(group), seen, begin, newId());
  });
  return { id: newId(), name, note: '', preconditions: [], variables: [], steps: withPulses(steps) };
}

const keyOf = (place: Place): string => JSON.stringify(place);

/** Commands that were given together. */
function grouped(told: readonly Change[]): Change[][] {
  const groups: Change[][] = [];
  for (const change of told) {
    const group = groups.at(-1);
    const same = group?.some((c) => keyOf(c.place) === keyOf(change.place));
    if (group && !same && change.at - group.at(-1)!.at <= togetherMs) group.push(change);
    else groups.push([change]);
  }
  return groups;
}

/** The last value of each place, in the order in which they came. */
const lastOfEach = (changes: readonly Change[]): Change[] => {
  const last = new Map<string, Change>();
  for (const change of changes) {
    last.delete(keyOf(change.place));
    last.set(keyOf(change.place), change);
  }
  return [...last.values()];
};

function stepOf(told: readonly Change[], seen: readonly Change[], begin: number, id: string): Step {
  const orders = told.map(({ place, value }): Order => ({ place, how: 'set', to: value, back: false }));
  const conditions = seen.map(({ place, value }): Condition => ({
    ...{ place, is: 'equals', to: value, upTo: null, stable: 0 },
  }));
  const waited = Math.max(0, ...seen.map((c) => c.at - begin));
  const first = told[0]!;
  const title = `${first.value === false || first.value === 0 ? 'release' : 'give'} ${first.place.role ?? 'a value'}`;
  return {
    ...{ id, title, orders, conditions, any: false, updates: 2, least: 0 },
    limit: conditions.length > 0 ? Math.max(leastLimit, Math.ceil((limitFactor * waited) / 100) * 100) : null,
    ...{ reason: '', late: null, fails: false, results: [], branches: [], repeat: null },
  };
}

/** A bit that is given, and taken back in a step that does nothing else and waits for nothing, is a pulse. */
function withPulses(steps: readonly Step[]): Step[] {
  const kept: Step[] = [];
  for (const step of steps) {
    const before = kept.at(-1);
    const [order] = step.orders;
    const alone = step.orders.length === 1 && step.conditions.length === 0 && order!.to === false;
    const given =
      alone && before?.orders.find((o) => keyOf(o.place) === keyOf(order!.place) && o.to === true && !o.back);
    if (before && given)
      kept[kept.length - 1] = {
        ...before,
        orders: before.orders.map((o) => (o === given ? { ...o, back: true } : o)),
      };
    else kept.push(step);
  }
  return kept;
}

/** Every value that changed, of all images that were heard. */
function changesOf(devices: readonly Device[], heard: readonly HeardImage[]): Change[] {
  return devices.flatMap((device) =>
    device.links.flatMap((link) =>
      imagesOf(link).flatMap((image) =>
        imageChanges(
          device,
          image,
          heard.filter((h) => h.image === image.id),
        ),
      ),
    ),
  );
}

function imageChanges(device: Device, image: Image, heard: readonly HeardImage[]): Change[] {
  const places = placesOfImage(device, image);
  const codec = codecOf(image);
  const last: (Plain | undefined)[] = [];
  return heard.flatMap(({ at, bytes }) => {
    if (bytes.length < codec.bytes) return [];
    codec.decode(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength));
    return places.flatMap(({ place, read }, i): Change[] => {
      const value = read(codec);
      const before = last[i];
      last[i] = value;
      return before === undefined || before === value ? [] : [{ at, place, value }];
    });
  });
}

interface Readable {
  place: Place;
  read: (codec: ReturnType<typeof codecOf>) => Plain;
}

/** Places that may be a part of a handshake: commands all, feedback as far as it is a bit, a code or a text. */
function placesOfImage(device: Device, image: Image): Readable[] {
  const { signals } = codecOf(image);
  const side = image.direction;
  const taken = new Set<number>();
  const byRole = [...rolePlaces(image)].flatMap(([role, numbers]) =>
    [...numbers].flatMap(([number, { index, bit }]): Readable[] => {
      taken.add(index);
      const signal = signals[index]!;
      if (side === 'feedback' && isMeasured(signal, bit)) return [];
      const place: Place = {
        ...{ device: device.id, side, role, field: null, bit: null },
        number: factsOfRole(role).numbered ? number : null,
      };
      return [{ place, read: reader(signal, index, bit) }];
    }),
  );
  const byField = signals.flatMap((signal, index): Readable[] => {
    if (taken.has(index) || (side === 'feedback' && isMeasured(signal, null))) return [];
    const place: Place = { device: device.id, side, role: null, number: null, field: signal.id, bit: null };
    return [{ place, read: reader(signal, index, null) }];
  });
  return [...byRole, ...byField];
}

const isMeasured = (signal: Signal, bit: number | null): boolean =>
  bit === null &&
  signal.bits > 1 &&
  readsOf(signal) !== 'text' &&
  Boolean(signal.scale ?? signal.decimals ?? signal.unit);

function reader(signal: Signal, index: number, bit: number | null): Readable['read'] {
  const reads = readsOf(signal);
  if (bit !== null)
    return (codec) => (((Number(codec.valueAt(index)) / 2 ** bit) & 1) === 1) !== signal.normallyClosed;
  if (signal.bits === 1) return (codec) => (codec.numberAt(index) === 1) !== signal.normallyClosed;
  return reads === 'text' || reads === 'bytes'
    ? (codec) => String(codec.valueAt(index))
    : (codec) => codec.numbers[index]!;
}
