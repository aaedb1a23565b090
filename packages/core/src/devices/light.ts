import { z } from 'zod';
import { printable } from '../entries/entries.js';

export const lightColours = ['off', 'green', 'red', 'amber', 'red and green'] as const;
/** Blink codes of the standard (CIP Vol. 2, 9-4, from memory); counted pulses are `2 pulses`. */
const LightPattern = z.string().regex(/^(steady|flashing|alternating|[1-9]\d? pulses)$/, 'is no blink code');

/** States that a light may say, whatever pattern its maker chose for them. */
export const lightOccasions = [
  /** The controller's program does not run. */
  'idle',
  /** A parameter that needs a key is open. */
  'unlocked',
  /** Of a port: its device talks, none does, it is in another mode than its device needs, it has no load power. */
  ...(['talks', 'switched', 'silent', 'other mode', 'no power'] as const),
] as const;
export type LightOccasion = (typeof lightOccasions)[number];

/** A firmware revision as it is printed: 2.1. */
const Revision = z.string().regex(/^\d{1,3}\.\d{1,3}$/, 'is no revision such as 2.1');

/** What one state of a light at a device says, by the manual of its firmware revision. */
export const LightMeaning = z.strictObject({
  /** As printed beside it. */
  light: printable(24).min(1),
  colour: z.enum(lightColours),
  pattern: LightPattern,
  means: printable(120).min(1),
  /** In what state of the device it burns so, where that is another way than devices of its kind usually have. */
  when: z.enum(lightOccasions).optional(),
  /** Since this revision of the firmware; before that one. It may have said something else before. */
  since: Revision.optional(),
  before: Revision.optional(),
});
export type LightMeaning = z.infer<typeof LightMeaning>;

/** Revision of a device's firmware. */
export interface FirmwareRevision {
  majorRevision: number;
  minorRevision: number;
}
const rank = (text: string): number => {
  const [major, minor] = text.split('.').map(Number);
  return major! * 1000 + minor!;
};
/** Whether a meaning is that of a revision. */
export const holdsAt = (
  { since, before }: Pick<LightMeaning, 'since' | 'before'>,
  { majorRevision, minorRevision }: FirmwareRevision,
): boolean => {
  const now = majorRevision * 1000 + minorRevision;
  return (since === undefined || now >= rank(since)) && (before === undefined || now < rank(before));
};
/** What the lights of a device say at its revision. */
export const lightsAt = (lights: readonly LightMeaning[], revision: FirmwareRevision): LightMeaning[] =>
  lights.filter((light) => holdsAt(light, revision));

/** Whose lights they are: a device says its own revision, else the plan does. */
interface Lit {
  description: { lights: readonly LightMeaning[]; identity: FirmwareRevision | null };
  identity: FirmwareRevision;
}
/** What the lights of a device say at the revision that it has. */
export const ownLights = ({ description, identity }: Lit): LightMeaning[] =>
  lightsAt(description.lights, description.identity ?? identity);

/** What a light of a port says, revision by revision, the present one marked; a state a row. */
export interface PortLight {
  text: string;
  /** At the revision that the device has. */
  now: boolean;
}
export function portLights({ description, identity }: Lit, port: number): PortLight[] {
  const revision = description.identity ?? identity;
  const own = description.lights.filter(({ light }) => new RegExp(`^\\D*\\b${port}$`).test(light.trim()));
  return own.map((light) => ({
    text: `${spanText(light)}${shownText(light)} = ${light.means}`,
    now: holdsAt(light, revision),
  }));
}
const spanText = ({ since, before }: Pick<LightMeaning, 'since' | 'before'>): string =>
  [since && `since ${since}`, before && `before ${before}`]
    .filter(Boolean)
    .join(', ')
    .concat((since ?? before) ? ': ' : '');

type Shown = { colour: string; pattern: string };

/** `flashing green`, `2 pulses red`, `off`. */
export const shownText = ({ colour, pattern }: Shown): string =>
  colour === 'off' ? 'off' : `${pattern} ${colour}`;

/** What a light says: as the describer of its device has it, else as it was taken for. */
export const asDescribed = <L extends Shown & { name: string; means: string }>(
  light: L,
  lights: readonly LightMeaning[],
): L => {
  const described = lights.find(
    (l) => l.light.toLowerCase() === light.name.toLowerCase() && shownText(l) === shownText(light),
  );
  return described ? { ...light, means: described.means } : light;
};

/** A light as it burns in a state, where its description says of that state how it does. */
export function lightAt<L extends Shown & { name: string; means: string }>(
  light: L,
  when: LightOccasion | undefined,
  lights: readonly LightMeaning[],
): L {
  const own =
    when && lights.find((l) => l.when === when && l.light.toLowerCase() === light.name.toLowerCase());
  return own ? { ...light, colour: own.colour, pattern: own.pattern, means: own.means } : light;
}

/**
 * Light meanings as text, a line each: `module: flashing green = calibration is open`; with the state in which it burns
 * so where that is said: `module when idle: 2 pulses green = stand-by`; and with the revisions for which it holds:
 * `port 1 since 2.1: steady green = IO-Link mode`.
 */
export const lightsText = (lights: readonly LightMeaning[]): string =>
  lights
    .map(({ light, since, before, when, ...l }) => {
      const spans = `${since ? ` since ${since}` : ''}${before ? ` before ${before}` : ''}`;
      return `${light}${spans}${when ? ` when ${when}` : ''}: ${shownText(l)} = ${l.means}`;
    })
    .join('\n');

const line = new RegExp(
  `^([^:=]+?)(?:\\s+since\\s+(\\d+\\.\\d+))?(?:\\s+before\\s+(\\d+\\.\\d+))?(?:\\s+when\\s+(${lightOccasions.join('|')}))?:\\s*(?:(off)|(steady|flashing|alternating|\\d{1,2} pulses)\\s+(${lightColours.slice(1).join('|')}))\\s*=\\s*(.+)$`,
  'i',
);

/** Such a text read back; the lines that are none are given back as they were written. */
export function readLights(text: string): { lights: LightMeaning[]; bad: string[] } {
  const lights: LightMeaning[] = [];
  const bad: string[] = [];
  for (const written of text.split('\n').map((l) => l.trim())) {
    if (written === '') continue;
    const [, light, since, before, when, off, pattern, colour, means] = line.exec(written) ?? [];
    const parsed = LightMeaning.safeParse({
      light: light?.trim(),
      colour: off ? 'off' : colour?.toLowerCase(),
      pattern: off ? 'steady' : pattern?.toLowerCase(),
      means: means?.trim(),
      ...(when ? { when: when.toLowerCase() } : {}),
      ...(since ? { since } : {}),
      ...(before ? { before } : {}),
    });
    if (parsed.success) lights.push(parsed.data);
    else bad.push(written);
  }
  return { lights, bad };
}
