import type { RoleImage } from '../devices/byRoles/roleImage.js';
import type { Setting } from '../devices/byRoles/commands.js';
import { means } from '../devices/settingMeaning.js';
import { roles, type Acting, type Role } from '../layout/role.js';
import type { CommandOrder, Ring } from '../trouble/ring.js';

/**
 * What must hold for a device to do something, each by role: one condition for all layouts, protocols and makers.
 * Which of them a kind asks for, and in what order, stands in chains.ts. All of them are common practice, no source,
 * where nothing else is said.
 */

/** A device at one moment, as far as it is known. Both images have been read. */
export interface BeamScene {
  command: RoleImage;
  feedback: RoleImage;
  /** The link stands; its feedback is one of now. */
  open: boolean;
  /** The controller's program runs, as the device is told. */
  runs: boolean;
  /** What a parameter with this role is set to; undefined: not known. */
  setting(role: Role, number?: number): Setting | undefined;
}

type Look = Pick<Ring, 'state' | 'says' | 'idle'> & { does?: CommandOrder | undefined };

/** One condition; `look` gives undefined where the device has nothing that says it. */
export interface Condition {
  /** Names it in the changes that somebody made to a chain. */
  id: string;
  title: string;
  look(scene: BeamScene): Look | undefined;
}

const closed = (says: string): Look => ({ state: 'closed', says });
const open = (says: string, does?: CommandOrder): Look => ({ state: 'open', says, does });
/** Open because nobody asks for it. */
const notAsked = (says: string, does?: CommandOrder): Look => ({ ...open(says, does), idle: true });
const called = (role: Role) => roles[role].title;

/** An order of one write to the field that has a role; undefined where none has it. */
export function orderOf(
  { command }: BeamScene,
  role: Role,
  order: Pick<CommandOrder, 'how' | 'value'>,
  title: string,
): CommandOrder | undefined {
  const place = command.placeOf(role);
  return place && { title, field: place.signal.id, bit: place.bit, ...order };
}

/** A bit of the command image that must stand, or must not. */
export const commanded = (role: Role, must: boolean, without: string): Condition => ({
  id: role,
  title: must ? called(role) : `no ${called(role)}`,
  look: (scene) => {
    const now = scene.command.bit(role);
    if (now === undefined) return undefined;
    if (now === must) return closed(must ? 'It is given.' : 'It is not set.');
    const title = must ? `Give ${called(role)}` : `Take ${called(role)} back`;
    return open(without, orderOf(scene, role, { how: 'set', value: must }, title));
  },
});

/** A bit of the feedback image that must be what it should; `order` is what brings it there. */
export const shown = (
  role: Role,
  must: boolean,
  title: string,
  without: string | ((scene: BeamScene) => string),
  order?: { role: Role; title: string },
): Condition => ({
  id: role,
  title,
  look: (scene) => {
    const now = scene.feedback.bit(role);
    if (now === undefined) return undefined;
    if (now === must)
      return closed(must ? `It says ${called(role)}.` : `It says nothing of ${called(role)}.`);
    return open(
      typeof without === 'string' ? without : without(scene),
      order && orderOf(scene, order.role, { how: 'pulse', value: true }, order.title),
    );
  },
});

export const linkStands: Condition = {
  id: 'link',
  title: 'link',
  look: ({ open: stands }) =>
    stands ? closed('The link stands.') : open('The link does not stand: its causes say why.'),
};

export const controllerRuns: Condition = {
  id: 'run',
  title: 'controller runs',
  look: ({ runs }) =>
    runs
      ? closed('The device is told that the program runs.')
      : open('The controller idles: the device ignores what it is commanded. Set the controller to run.'),
};

/** What its fault code says, by its label. */
const faultText = ({ feedback }: BeamScene): string => {
  const code = feedback.label('fault code');
  return code === '' ? '' : ` ${code}:`;
};

/** Stops for safety go before faults: most devices say a fault of them, too. */
export const noStop: readonly Condition[] = [
  shown('emergency stop', false, 'emergency stop released', 'Its emergency stop is pressed: release it.'),
  shown('safety tripped', false, 'safety', 'Its safety has tripped: look there, then reset.', {
    role: 'safety reset',
    title: 'Give safety reset',
  }),
];
export const noFault: Condition = shown(
  'faulted',
  false,
  'no fault',
  (scene) => `It is faulted:${faultText(scene)} take the reason away, then reset.`,
  { role: 'fault reset', title: 'Reset the fault' },
);
export const supply: Condition = shown(
  'supply in order',
  true,
  'supply',
  'Its supply is not in order: look at its fuse and its supply.',
);
export const loadPower: Condition = {
  id: 'load power',
  title: 'load power',
  look: (scene) => {
    const given = scene.command
      .numbers('load power')
      .find((n) => scene.command.bit('load power', n) === false);
    const place = given === undefined ? undefined : scene.command.placeOf('load power', given);
    if (place)
      return open(`Load power ${given} is switched off: nothing that hangs there moves.`, {
        ...{ title: `Switch load power ${given} on`, field: place.signal.id, bit: place.bit },
        ...{ how: 'set', value: true },
      });
    const without = scene.feedback
      .numbers('load power')
      .find((n) => scene.feedback.bit('load power', n) === false);
    if (without !== undefined)
      return open(
        `Load power ${without} is missing: its outputs are set and nothing moves. Look at its fuse.`,
      );
    return scene.feedback.has('load power') ? closed('Its outputs have load power.') : undefined;
  },
};

/** Where start or reference come from: a bit that gives it to the network, what it says of it, a setting. */
const fromNetwork = (
  bit: 'network control' | 'network reference',
  says: 'network has control' | 'network has reference',
  source: 'start source' | 'reference source',
  what: string,
): Condition => ({
  id: bit,
  title: `${what} from the network`,
  look: (scene) => {
    const { command, feedback } = scene;
    if (command.bit(bit) === false)
      return open(
        `It does not take its ${what} from the network: the bit that says so is not set.`,
        orderOf(scene, bit, { how: 'set', value: true }, `Give the ${what} to the network`),
      );
    const set = scene.setting(source);
    if (set?.label !== undefined && !means(set.label, 'network'))
      return open(`It takes its ${what} from ${set.label}: set its parameter to the network.`);
    const has = feedback.bit(says);
    if (has === false)
      return open(
        `It says that its ${what} does not come from the network: look at its keypad and settings.`,
      );
    return (has ?? set ?? command.has(bit)) ? closed(`Its ${what} comes from the network.`) : undefined;
  },
});
export const networkControl = fromNetwork('network control', 'network has control', 'start source', 'start');
export const networkReference = fromNetwork(
  'network reference',
  'network has reference',
  'reference source',
  'speed reference',
);

export const noStopCommand = commanded('stop', false, 'Stop is still set, and stop goes before start.');
export const noQuickStop = commanded(
  'quick stop',
  false,
  'Quick stop is set: it stands whatever else is given.',
);
export const enabled = commanded('enable', true, 'It is not enabled: without it nothing else acts.');
export const permitted = commanded('permissive', true, 'Its permissive is missing: it waits for it.');
export const notHeld = commanded('hold', false, 'Hold is set: it stands until hold is taken back.');

/** A reference that is not 0. */
export const reference = (role: Role, what: string): Condition => ({
  id: role,
  title: what,
  look: ({ command, setting }) => {
    const now = command.number(role);
    if (now === undefined) return undefined;
    const least = setting('lowest speed')?.value ?? 0;
    return now !== 0 || least > 0
      ? closed(`${now} ${command.unit(role)}`.trim())
      : open(`The ${what} is 0: it obeys, and stands.`);
  },
});

/** A number for which the labels of its field must know a name. */
export const known = (role: Role, what: string): Condition => ({
  id: role,
  title: what,
  look: ({ command }) => {
    const now = command.number(role);
    const labels = command.labelled(role);
    if (now === undefined || labels.length === 0) return undefined;
    const label = labels.find(({ value }) => value === now);
    return label
      ? closed(`${now} ${label.text}`)
      : open(`There is no ${what} ${now}: ${labels.map((l) => `${l.value} ${l.text}`).join(', ')}.`);
  },
});

/** Whether the device shows that it does what the command asks for; undefined: it does not say. */
export type Taken = (scene: BeamScene) => boolean | undefined;

/** The first of these bits that the device shows. */
export const takenBy =
  (...says: readonly Role[]): Taken =>
  ({ feedback }) => {
    const bits = says.flatMap((role) => feedback.bit(role) ?? []);
    return bits.length === 0 ? undefined : bits.some(Boolean);
  };

const actsBy: Readonly<Record<Acting, string>> = {
  level: 'while it is 1',
  'rising edge': 'when it goes from 0 to 1',
  'falling edge': 'when it goes from 1 to 0',
  change: 'when it changes',
  rise: 'when it rises',
  'leaving zero': 'when it leaves 0',
};

/**
 * The command itself: given so that it acts, and taken. A bit of which only an edge counts, and that stands there while
 * nothing happens, must go back first.
 */
export const given = (role: Role, usual: Acting, taken: Taken): Condition => ({
  id: `${role} given`,
  title: `${called(role)} given`,
  look: (scene) => {
    const now = scene.command.bit(role);
    if (now === undefined) return undefined;
    const acts = scene.command.acting(role) ?? usual;
    if (taken(scene)) return closed('It was taken.');
    const name = called(role);
    if (acts === 'falling edge')
      return now
        ? open(
            `${name} stands at 1, and the device acts when it goes back to 0.`,
            orderOf(scene, role, { how: 'set', value: false }, `Take ${name} back`),
          )
        : notAsked(
            `${name} is not given; it acts when it goes from 1 to 0.`,
            orderOf(scene, role, { how: 'pulse', value: true }, `Give ${name}`),
          );
    if (!now)
      return notAsked(
        `${name} is not given; it acts ${actsBy[acts]}.`,
        orderOf(scene, role, { how: 'set', value: true }, `Give ${name}`),
      );
    return acts === 'level'
      ? closed('It is given.')
      : open(
          `${name} was 1 already, and only an edge counts: it must go to 0 and to 1 again.`,
          orderOf(scene, role, { how: 'renew', value: true }, `Give ${name} anew`),
        );
  },
});

/** A level that a fault, or a stop, has made worthless: it must go back first. */
export const startAnew = (role: Role, taken: Taken): Condition => ({
  id: `${role} anew`,
  title: `${called(role)} given anew`,
  look: (scene) => {
    const now = scene.command.bit(role);
    const acts = scene.command.acting(role) ?? 'level';
    if (now === undefined || acts !== 'level') return undefined;
    const does = taken(scene);
    if (!now || does === undefined) return undefined;
    return does
      ? closed('It was taken.')
      : open(
          `${called(role)} has stood since before the device could start: it must go to 0 and to 1 again.`,
          orderOf(scene, role, { how: 'renew', value: true }, `Give ${called(role)} anew`),
        );
  },
});

/** Exactly one of the directions, where there are bits for both. */
export const oneDirection = (taken: Taken): Condition => ({
  id: 'directions',
  title: 'one direction',
  look: (scene) => {
    const [forward, reverse] = [scene.command.bit('forward'), scene.command.bit('reverse')];
    if (forward === undefined && reverse === undefined) return undefined;
    if (forward && reverse)
      return open(
        'Both directions are set, which is none.',
        orderOf(scene, 'reverse', { how: 'set', value: false }, `Take ${called('reverse')} back`),
      );
    if (forward === true || reverse === true || taken(scene)) return closed(forward ? 'forward' : 'reverse');
    const role = forward === undefined ? 'reverse' : 'forward';
    return notAsked(
      'No direction is given.',
      orderOf(scene, role, { how: 'set', value: true }, `Give ${called(role)}`),
    );
  },
});

/** A number that must be higher than the one that the device showed last, also past the end of its field. */
export const higher = (role: Role, taken: Taken): Condition => ({
  id: `${role} higher`,
  title: `${called(role)} rises`,
  look: (scene) => {
    const [now, last] = [scene.command.number(role), scene.feedback.number(role)];
    if (now === undefined) return undefined;
    if (last === undefined) return { state: 'unknown', says: 'It does not say which number it had last.' };
    if (taken(scene)) return closed('It works on it.');
    const span = scene.command.span(role);
    const ahead = (((now - last) % span) + span) % span;
    return ahead > 0 && ahead < span / 2
      ? closed(`${now}, behind ${last}`)
      : (ahead === 0 ? notAsked : open)(
          `${called(role)} is ${now}, and it has had ${last}: only a higher number acts.`,
          orderOf(scene, role, { how: 'set', value: (last + 1) % span }, `Write ${(last + 1) % span}`),
        );
  },
});

/** A code that is not 0, and that the device has not obeyed: it acts when it leaves 0. */
export const codeLeavesZero: Condition = {
  id: 'command code given',
  title: 'a code that comes from 0',
  look: (scene) => {
    const code = scene.command.number('command code');
    if (code === undefined) return undefined;
    if (code === 0) return notAsked('There is no code: write one.');
    const answer = scene.feedback.number('command answer');
    if (answer === undefined) return { state: 'unknown', says: 'It does not say what it has obeyed.' };
    return answer === code
      ? closed(`It has obeyed ${scene.command.label('command code')}.`)
      : open(
          `${scene.command.label('command code')} stands there and was not obeyed: only a code that comes from 0 counts.`,
          orderOf(scene, 'command code', { how: 'renew', value: code }, 'Give it anew, with 0 between'),
        );
  },
};

/** The end of the beam: it does what it is asked for. */
export const does = (title: string, taken: Taken, otherwise: string): Condition => ({
  id: 'does',
  title,
  look: (scene) => {
    const now = taken(scene);
    if (now === undefined) return { state: 'unknown', says: 'The device does not say whether it does.' };
    return now ? closed('It does.') : open(otherwise);
  },
});

/** Beams of a light curtain: one that acts is broken, whatever its bit says then. */
export const beamsClear: Condition = {
  id: 'beams',
  title: 'beams clear',
  look: ({ feedback }) => {
    const numbers = feedback.numbers('beams');
    if (numbers.length === 0) return undefined;
    const broken = numbers.filter((n) => feedback.bit('beams', n) === true);
    return broken.length === 0
      ? closed(`${numbers.length} beams are clear.`)
      : open(`Something stands in beam ${broken[0]}${broken.length > 1 ? ` to ${broken.at(-1)}` : ''}.`);
  },
};
