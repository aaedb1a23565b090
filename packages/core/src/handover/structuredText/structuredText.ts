import { withSafetyNotes } from '../safetyNotes.js';
import { identifierOf, uniqueIdentifiers } from '../../entries/identifiers.js';
import { imagesOf, type ImagePlace } from '../../cell/find.js';
import { sceneOf } from '../../cell/scene.js';
import type { Link } from '../../cell/link.js';
import type { Cell } from '../../cell/model.js';
import { bothSides, type AddressScene } from '../../layout/address.js';
import { readsOf, roomOf } from '../../layout/fieldTypes.js';
import { protocolOf } from '../../protocols/list.js';
import type { Code } from './chain.js';
import { derivedLines } from './derivedText.js';
import { bytesHeld, sourceOf, type AgeInput } from './elements.js';
import { namesOf, typeTexts } from './members.js';
import { packLines, signLines } from './pack.js';
import { bitString, comment, indented } from './text.js';
import { unpackLines } from './unpack.js';

export interface Local {
  name: string;
  type: string;
  note?: string;
}

/** A block of declarations; nothing when there are none. */
export const declarations = (keyword: string, locals: readonly Local[]): string[] =>
  locals.length === 0
    ? []
    : [
        keyword,
        ...locals.map(({ name, type, note }) => `  ${name} : ${type};${note ? ` ${comment(note)}` : ''}`),
        'END_VAR',
      ];

/** Local variables that the statements use by their names. */
function helpers(lines: readonly string[], code: Code): Local[] {
  const uses = (name: string) => lines.some((line) => new RegExp(`\\b${name}\\b`).test(line));
  const rooms = code.members.filter((m) => readsOf(m.signal) === 'text').map((m) => roomOf(m.signal));
  return [
    { name: 'i', type: 'INT' },
    { name: 'length', type: 'INT' },
    { name: 'text_bytes', type: `ARRAY[0..${Math.max(1, ...rooms) - 1}] OF BYTE` },
  ].filter(({ name }) => uses(name));
}

/** Inputs for the ages of the runs that an image shows, each under a name of its own. */
function ageInputs({ ages = [] }: AddressScene): AgeInput[] {
  const names = uniqueIdentifiers(ages.map(({ run }) => `age_of_${run}`));
  return ages.map((age, i) => ({ ...age, input: names[i]! }));
}

/** Structured text of one image: the STRUCT, and the function that unpacks (feedback) or packs (command) it. */
function imageText(cell: Cell, place: ImagePlace, stem: string): string[] {
  const { device, link, image } = place;
  const addresses = sceneOf(cell, place);
  const { elementBits } = addresses.controller;
  const structName = `${stem}_${image.direction}_t`;
  const rawName = `${stem}_${image.direction}_raw_t`;
  const feedback = image.direction === 'feedback';
  const { members, derived } = namesOf(image);
  const fn = feedback ? `${stem}_unpack` : `${stem}_pack`;
  const code: Code = { addresses, ages: ageInputs(addresses), members, fn };
  const elements = Math.max(1, Math.ceil((bytesHeld(addresses) * 8) / elementBits));
  const { controller } = bothSides(addresses, 0);
  const title = [`${device.name}: ${image.direction} image`, protocolOf(link).placeOf(link, image.direction)];
  const from = controller.directElement || 'where its elements begin';
  const head = [
    comment(
      `${title.filter(Boolean).join(', ')}, ${image.size} bytes; controller ${controller.side} from ${from}`,
    ),
    ...typeTexts(structName, addresses, derived, (signal) => sourceOf(code, signal)),
    '',
    'TYPE',
    `  ${rawName} : ARRAY[0..${elements - 1}] OF ${bitString[elementBits]};`,
    'END_TYPE',
    '',
  ];
  if (!feedback) {
    const lines = [
      `FOR i := 0 TO ${elements - 1} DO ${fn}[i] := ${bitString[elementBits]}#0; END_FOR;`,
      ...members.flatMap((m) => packLines(code, m)),
      ...members.flatMap((m) => signLines(code, m)),
    ];
    return [
      ...head,
      `FUNCTION ${fn} : ${rawName}`,
      ...declarations('VAR_INPUT', [{ name: 'value', type: structName }]),
      ...declarations('VAR', helpers(lines, code)),
      ...indented(lines),
      'END_FUNCTION',
    ];
  }
  const computed = derivedLines(code, derived);
  const lines = [...members.flatMap((m) => unpackLines(code, m)), ...computed.lines];
  const ages = code.ages.map(({ input, run, limitMs }) => ({
    name: input,
    type: 'UDINT',
    note: `ms since the last good answer of ${run}; fresh up to ${limitMs}`,
  }));
  return [
    ...head,
    `FUNCTION ${fn} : ${structName}`,
    ...declarations('VAR_INPUT', [{ name: 'raw', type: rawName }, ...ages]),
    ...declarations('VAR', [...helpers(lines, code), ...computed.locals]),
    ...indented(lines),
    'END_FUNCTION',
  ];
}

/** What the names of a link’s types and functions begin with. */
export const stemsOf = (cell: Cell): Map<Link, string> => {
  const links = cell.devices.flatMap((device) => device.links.map((link, i) => ({ device, link, i })));
  const names = uniqueIdentifiers(
    links.map(({ device, i }) => (i ? `${device.name}_${i + 1}` : device.name)),
  );
  return new Map(links.map(({ link }, i) => [link, names[i]!]));
};

/**
 * The structured text of a cell (IEC 61131-3:2013): per image the types and one function. A field with a sign source, a
 * decimal point or a scale becomes a REAL (LREAL above 16 bits) in engineering units; text a STRING, raw bytes an ARRAY
 * OF BYTE; groups are arrays of structures. Beside a value with special numbers stands which of them it holds, and
 * derived values are computed behind the fields. What is sent stays within its limits; bits without a field are sent as
 * 0. Fields past the end of an image are left out. What no register brings is computed from the age of an answer, which
 * is an input, or stays 0.
 */
export function structuredText(given: Cell): string {
  const cell = withSafetyNotes(given);
  const stems = stemsOf(cell);
  const { elementBits } = cell.controller;
  const parts = cell.devices.flatMap((device) =>
    device.links.flatMap((link) =>
      imagesOf(link).map((image) => imageText(cell, { device, link, image }, stems.get(link)!).join('\n')),
    ),
  );
  const head = comment(
    `${cell.name}: layouts for ${cell.controller.name}, ${elementBits}-bit elements. Structured text, IEC 61131-3:2013.`,
  );
  return [head, ...parts].join('\n\n') + '\n';
}

/** The file name that the structured text of a cell has. */
export const structuredTextFile = (cell: Cell): string => `${identifierOf(cell.name)}.st`;
