import type { Cell, Device } from '../cell/model.js';
import { signalsOf } from '../layout/signals.js';
import type { Role } from '../layout/role.js';
import { Problem } from '../messages/problem.js';
import type { CommandOrder } from '../trouble/ring.js';
import type { Condition, Exchange, Order, Place, Step } from '../cell/exchange.js';
import { findPlace } from './resolve.js';

/**
 * One command of a person as an exchange of its own: what is given is never shorter than the wire can carry. A pulse
 * lasts two updates at least, and until its acknowledge where the device has one; a value that must come from 0 is
 * given behind a 0 that lasts as long.
 */

/** What answers a command that is pulsed; common practice, no source. */
const acknowledges: Partial<Record<Role, Role>> = {
  trigger: 'trigger acknowledge',
  'setpoint strobe': 'setpoint acknowledge',
  'program change': 'program changed',
};
/** Longest time for an acknowledge, ms: then the pulse ends without one. */
const answerMs = 1000;

/** Throws `edit.unknown` for a signal that the command images of the device do not have. */
export function exchangeOfOrder(
  cell: Pick<Cell, 'devices'>,
  device: Device,
  { field, bit, how, value, title }: Pick<CommandOrder, 'field' | 'bit' | 'how' | 'value' | 'title'>,
): Exchange {
  const signal = device.links.flatMap((l) => signalsOf(l.command)).find((s) => s.id === field);
  if (!signal) throw new Problem('edit.unknown', { what: 'command field', id: field });
  const place: Place = { device: device.id, side: 'command', role: null, number: null, field, bit };
  const order = (part: Partial<Order>): Order[] => [{ place, how: 'set', to: value, back: false, ...part }];
  const rest = typeof value === 'boolean' ? false : typeof value === 'number' ? 0 : '';
  const role = bit === null ? signal.role?.is : signal.bitRoles.find((b) => b.bit === bit)?.role.is;
  const steps = {
    set: [step('give', order({}))],
    toggle: [step('turn over', order({ how: 'toggle' }))],
    increment: [step('one more', order({ how: 'increment', to: 0 }))],
    renew: [step('zero', order({ to: rest })), step('give', order({}))],
    pulse: [step('pulse', order({ back: true }), acknowledged(cell, device, role))],
  }[how];
  return {
    id: `${field}_${bit ?? 'whole'}`.slice(0, 40),
    name: title,
    note: '',
    preconditions: [],
    variables: [],
    steps,
  };
}

function acknowledged(cell: Pick<Cell, 'devices'>, device: Device, role: Role | undefined): Condition[] {
  const answer = role && acknowledges[role];
  if (!answer) return [];
  const place: Place = {
    ...{ device: device.id, side: 'feedback' as const, role: answer, number: null, field: null, bit: null },
  };
  return findPlace(cell, place) ? [{ place, is: 'equals', to: true, upTo: null, stable: 0 }] : [];
}

const step = (title: string, orders: Order[], conditions: Condition[] = []): Step => ({
  ...{ id: title.replaceAll(' ', '-'), title, orders, conditions, any: false, updates: 2, least: 0 },
  ...{ limit: conditions.length > 0 ? answerMs : null, reason: '', late: 'done', fails: false },
  ...{ results: [], branches: [], repeat: null },
});
