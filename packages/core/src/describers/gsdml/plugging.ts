import { Problem, type ProblemReport } from '../../messages/problem.js';
import type { Gsdml, GsdmlAccessPoint, GsdmlData, GsdmlModule, GsdmlSubmodule, SlotRule } from './gsdml.js';

/** One module in its slot. The order of plugs is the order in which addresses are given. */
export interface Plug {
  slot: number;
  module: string;
}

/** Bytes of one submodule in an area of the controller. */
export interface Stretch {
  start: number;
  bytes: number;
  data: GsdmlData;
}

/** A submodule where it sits, with its addresses; inputs and outputs are counted apart. */
export interface SubmodulePlace {
  slot: number;
  subslot: number;
  module: string;
  submodule: GsdmlSubmodule;
  input: Stretch | null;
  output: Stretch | null;
}

export interface Plugged {
  places: SubmodulePlace[];
  /** What the slot rules forbid; it was plugged all the same. */
  troubles: ProblemReport[];
  inputBytes: number;
  outputBytes: number;
}

/** What the access point holds from the factory: modules that are fixed or used in slots, in the order of the slots. */
export const factoryPlugs = ({ modules }: GsdmlAccessPoint): Plug[] =>
  modules
    .flatMap(({ target, fixed, used }) =>
      [...new Set([...fixed, ...used])].map((slot) => ({ slot, module: target })),
    )
    .sort((a, b) => a.slot - b.slot);

/** Slots that a module may go into, and that nothing else has. */
export function freeSlots(
  { modules, slots }: GsdmlAccessPoint,
  plugs: readonly Plug[],
  module: string,
): number[] {
  const taken = new Set(plugs.map((p) => p.slot));
  const rule = modules.find((m) => m.target === module);
  return rule ? placesOf(rule, slots).filter((slot) => !taken.has(slot)) : [];
}

/** Where a rule lets its module be; a rule that says nothing means every slot of the device. */
function placesOf({ allowed, fixed, used }: SlotRule, slots: readonly number[]): number[] {
  const named = [...new Set([...allowed, ...fixed, ...used])].sort((a, b) => a - b);
  return named.length > 0 ? named : [...slots];
}

/**
 * The submodules of an access point and its plugs with their addresses, in the order of plugging, inputs and outputs
 * each from its own start (PROFINET leaves the addresses to the controller; that they follow each other is common
 * practice, no source).
 */
export function plugged(
  describer: Gsdml,
  accessPoint: GsdmlAccessPoint,
  plugs: readonly Plug[],
  start: { input: number; output: number } = { input: 0, output: 0 },
): Plugged {
  const troubles: ProblemReport[] = [];
  const refuse = (problem: Problem) => troubles.push(problem.report());
  const next = { ...start };
  const places: SubmodulePlace[] = [];
  const place = (slot: number, module: string, own: GsdmlModule | GsdmlAccessPoint) => {
    const inside = submodulesOf(describer, own);
    inside.forEach((submodule, i) => {
      const [fixed] = submodule.fixedIn;
      const stretch = (side: 'input' | 'output'): Stretch | null => {
        const data = submodule[side];
        if (!data || data.bytes === 0) return null;
        const at = next[side];
        next[side] += data.bytes;
        return { start: at, bytes: data.bytes, data };
      };
      const subslot = fixed ?? i + 1;
      places.push({ slot, subslot, module, submodule, input: stretch('input'), output: stretch('output') });
    });
  };
  place(accessPoint.fixedIn[0] ?? 0, accessPoint.id, accessPoint);
  const taken = new Map<number, string>();
  for (const { slot, module } of plugs) {
    const found = describer.modules.find((m) => m.id === module);
    if (!found) {
      refuse(new Problem('slot.noModule', { slot, module }));
      continue;
    }
    const rule = accessPoint.modules.find((m) => m.target === module);
    const allowed = rule && placesOf(rule, accessPoint.slots);
    if (!allowed?.includes(slot)) {
      const list = allowed?.join(', ') ?? '';
      refuse(new Problem('slot.notAllowed', { slot, module: found.name, allowed: list }));
    }
    const before = taken.get(slot);
    if (before !== undefined) refuse(new Problem('slot.taken', { slot, module: found.name, by: before }));
    taken.set(slot, found.name);
    place(slot, module, found);
  }
  const inputBytes = next.input - start.input;
  const outputBytes = next.output - start.output;
  for (const [side, bytes, maximum] of [
    ['input', inputBytes, accessPoint.maxInput],
    ['output', outputBytes, accessPoint.maxOutput],
  ] as const)
    if (maximum !== null && bytes > maximum) refuse(new Problem('slot.tooMuch', { side, bytes, maximum }));
  return { places, troubles, inputBytes, outputBytes };
}

/** The submodules that a module has by itself, and those that its rules put into it. */
function submodulesOf(describer: Gsdml, own: GsdmlModule | GsdmlAccessPoint): GsdmlSubmodule[] {
  const ruled = own.submoduleRules.flatMap(({ target, fixed, used }) => {
    const found = describer.submodules.find((s) => s.id === target);
    return found
      ? [...new Set([...fixed, ...used])].map((subslot) => ({ ...found, fixedIn: [subslot] }))
      : [];
  });
  return [...own.submodules, ...ruled];
}

/** A stretch of addresses that is elsewhere after a change, or new, or gone. */
export interface Move {
  slot: number;
  name: string;
  side: 'input' | 'output';
  bytes: number;
  from: number | null;
  to: number | null;
}

/** What changes its addresses from one plugging to another: to be said before it is done. */
export function movesBetween(before: Plugged, after: Plugged): Move[] {
  const keyOf = ({ slot, subslot, submodule }: SubmodulePlace) => `${slot} ${subslot} ${submodule.id}`;
  const stretches = (all: Plugged) =>
    new Map(
      all.places.flatMap((place) =>
        (['input', 'output'] as const).flatMap((side) => {
          const stretch = place[side];
          return stretch ? [[`${keyOf(place)} ${side}`, { place, side, stretch }] as const] : [];
        }),
      ),
    );
  const [was, is] = [stretches(before), stretches(after)];
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((key) => {
    const [old, now] = [was.get(key), is.get(key)];
    const { place, side, stretch } = (now ?? old)!;
    if (old && now && old.stretch.start === now.stretch.start) return [];
    return [
      {
        slot: place.slot,
        name: place.submodule.name,
        side,
        bytes: stretch.bytes,
        from: old?.stretch.start ?? null,
        to: now?.stretch.start ?? null,
      },
    ];
  });
}
