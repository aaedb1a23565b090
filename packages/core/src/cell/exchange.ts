import { z } from 'zod';
import { id, int, printable, text } from '../entries/entries.js';
import { roleNames } from '../layout/role.js';

/**
 * An exchange: a handshake with one or several devices as a model. Steps set fields of command images and wait for
 * fields, within limits. The same model is run on the bench (run.ts), checked (check.ts), drawn, told in sentences
 * (sentences.ts) and written as structured text (functionBlock.ts). Places are named by role wherever there is one, so
 * that another device of the kind takes over what was made for the one before.
 */

const maxSteps = 60;
/** Longest time of a step, ms: an hour. */
const longestMs = 3_600_000;

/** A value of a device: by its role, or by its field where it has none. */
export const Place = z.strictObject({
  device: id,
  side: z.enum(['command', 'feedback']),
  role: z.enum(roleNames).nullable().default(null),
  /** Of a numbered role. */
  number: int(1, 4096).nullable().default(null),
  /** Id of a signal; null where the role says it. */
  field: printable(80).nullable().default(null),
  /** Of a word; null: the whole field. */
  bit: int(0, 63).nullable().default(null),
});
export type Place = z.infer<typeof Place>;

const Constant = z.union([z.boolean(), z.number(), printable(200)]);
/** A constant, or a variable of the exchange with something added. */
export const Value = z.union([
  Constant,
  z.strictObject({ variable: printable(40).min(1, 'is empty'), plus: z.number().default(0) }),
]);
export type Value = z.infer<typeof Value>;

export const Order = z.strictObject({
  place: Place,
  /** `increment`: one more, past the end of its field from `to` on. `toggle`: the other state. */
  how: z.enum(['set', 'toggle', 'increment']).default('set'),
  to: Value.default(true),
  /** Taken back, to 0, when the step ends: a pulse. */
  back: z.boolean().default(false),
});
export type Order = z.infer<typeof Order>;

export const comparisons = [
  ...(['equals', 'differs', 'above', 'below', 'between'] as const),
  ...(['changes', 'rises', 'falls'] as const),
] as const;
/** `changes`: it is another value than at the begin of the step. `rises`, `falls`: an edge within the step. */
export const Condition = z.strictObject({
  place: Place,
  is: z.enum(comparisons).default('equals'),
  to: Value.default(true),
  /** The upper end of `between`. */
  upTo: Value.nullable().default(null),
  /** How long it must have held, ms. */
  stable: int(0, longestMs).default(0),
});
export type Condition = z.infer<typeof Condition>;

/** Where an exchange goes on: at a step, or nowhere, because it is done. */
const Target = z.union([id, z.literal('done')]);

export const Branch = z.strictObject({
  /** All of them. */
  conditions: z.array(Condition).min(1).max(8),
  to: Target,
});
export type Branch = z.infer<typeof Branch>;

export const Result = z.strictObject({ variable: printable(40).min(1, 'is empty'), place: Place });

export const Step = z.strictObject({
  id,
  title: printable(80).min(1, 'is empty'),
  /** Given at once when the step begins. */
  orders: z.array(Order).max(16).default([]),
  /** What it waits for; none: nothing. */
  conditions: z.array(Condition).max(16).default([]),
  /** One of them is enough. */
  any: z.boolean().default(false),
  /** It lasts at least so many update times of the devices that it commands. */
  updates: int(0, 20).default(0),
  /** It lasts at least so long, ms. */
  least: int(0, longestMs).default(0),
  /** It may last so long, ms; null: as long as it takes. */
  limit: int(1, longestMs).nullable().default(null),
  /** Why it failed, where the limit is over. */
  reason: text,
  /** Where it goes on when its limit is over; null: it has failed. */
  late: Target.nullable().default(null),
  /** The exchange fails here, for the reason. */
  fails: z.boolean().default(false),
  results: z.array(Result).max(16).default([]),
  /** The first that holds says where it goes on; else the next step. */
  branches: z.array(Branch).max(8).default([]),
  /** Back to a step, so often in all. */
  repeat: z.strictObject({ to: id, times: Value }).nullable().default(null),
});
export type Step = z.infer<typeof Step>;

export const Variable = z.strictObject({
  name: printable(40).min(1, 'is empty'),
  type: z.enum(['bit', 'number', 'text']),
  /** What it is at the begin where nobody says anything else. */
  given: Constant,
  /** It is a result: an output of the function block. */
  result: z.boolean().default(false),
});
export type Variable = z.infer<typeof Variable>;

export const Precondition = z.strictObject({ condition: Condition, reason: text });

export const Exchange = z.strictObject({
  id,
  /** Names the function block, too. */
  name: printable(64).min(1, 'is empty'),
  note: text,
  /** Must hold before it begins. */
  preconditions: z.array(Precondition).max(16).default([]),
  variables: z.array(Variable).max(30).default([]),
  steps: z.array(Step).max(maxSteps),
});
export type Exchange = z.infer<typeof Exchange>;

/** Every place that a step reads or writes. */
export const placesOfStep = (step: Step): Place[] => [
  ...step.orders.map((o) => o.place),
  ...step.conditions.map((c) => c.place),
  ...step.branches.flatMap((b) => b.conditions.map((c) => c.place)),
  ...step.results.map((r) => r.place),
];
export const placesOf = (exchange: Exchange): Place[] => [
  ...exchange.preconditions.map((p) => p.condition.place),
  ...exchange.steps.flatMap(placesOfStep),
];

/** The devices of an exchange, by id, each once. */
export const devicesOf = (exchange: Exchange): string[] => [
  ...new Set(placesOf(exchange).map((p) => p.device)),
];
export type Precondition = z.infer<typeof Precondition>;
