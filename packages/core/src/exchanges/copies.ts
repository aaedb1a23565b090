import type { Cell, Device } from '../cell/model.js';
import { devicesOf, type Condition, type Exchange, type Order, type Place } from '../cell/exchange.js';
import { signalsOf } from '../layout/signals.js';

/**
 * The exchanges of a device for its copies: each exchange that concerns this device alone, once a copy. What is named
 * by role goes over as it is; a field is found by its name.
 */
export function exchangesForCopies(
  { exchanges }: Pick<Cell, 'exchanges'>,
  original: Device,
  copies: readonly Device[],
  newId: () => string,
): Exchange[] {
  const own = exchanges.filter(
    (e) => devicesOf(e).every((id) => id === original.id) && devicesOf(e).length === 1,
  );
  return copies.flatMap((copy) => own.map((exchange) => copied(exchange, original, copy, newId)));
}

function copied(exchange: Exchange, original: Device, copy: Device, newId: () => string): Exchange {
  const names = new Map(sidesOf(original).map(({ side, id, name }) => [`${side} ${id}`, name]));
  const fields = new Map(sidesOf(copy).map(({ side, id, name }) => [`${side} ${name}`, id]));
  const placed = (place: Place): Place => ({
    ...place,
    device: copy.id,
    field:
      place.field &&
      (fields.get(`${place.side} ${names.get(`${place.side} ${place.field}`)}`) ?? place.field),
  });
  const condition = (c: Condition): Condition => ({ ...c, place: placed(c.place) });
  const order = (o: Order): Order => ({ ...o, place: placed(o.place) });
  const ids = new Map(exchange.steps.map((s) => [s.id, newId()]));
  const step = (id: string) => ids.get(id) ?? id;
  const says = (text: string) => text.replaceAll(original.name, copy.name);
  return {
    ...exchange,
    id: newId(),
    name: exchange.name.includes(original.name)
      ? says(exchange.name).slice(0, 64)
      : `${copy.name}: ${exchange.name}`.slice(0, 64),
    preconditions: exchange.preconditions.map((p) => ({
      condition: condition(p.condition),
      reason: says(p.reason),
    })),
    steps: exchange.steps.map((s) => ({
      ...s,
      id: step(s.id),
      reason: says(s.reason),
      orders: s.orders.map(order),
      conditions: s.conditions.map(condition),
      results: s.results.map((r) => ({ ...r, place: placed(r.place) })),
      branches: s.branches.map((b) => ({ conditions: b.conditions.map(condition), to: step(b.to) })),
      late: s.late && step(s.late),
      repeat: s.repeat && { ...s.repeat, to: step(s.repeat.to) },
    })),
  };
}

/** The signals of both sides of a device. */
const sidesOf = ({ links }: Device) =>
  links.flatMap((link) =>
    (['command', 'feedback'] as const).flatMap((side) =>
      signalsOf(link[side]).map(({ id, name }) => ({ side, id, name })),
    ),
  );
