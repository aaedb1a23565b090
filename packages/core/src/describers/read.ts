import { Problem } from '../messages/problem.js';
import type { Described } from './shared/described.js';
import type { DescriberKind } from './describer.js';
import { describerKinds, type AnyDescriber } from './list.js';
import { Defects } from './shared/defects.js';
import { fileText, type Decoder } from './shared/fileText.js';
import { filesOf, isPackage } from './shared/package.js';
import { readXml } from './shared/xml.js';

/** Bytes of a file that is taken: the largest format, each character in four bytes. */
export const maxDescriberBytes = 48_000_000;

/**
 * What a description file says, whatever kind it is, also zipped with its language files. Told apart by what it holds,
 * for names of files lie. Throws `describer.tooLarge`, `describer.noKind` and what the readers throw.
 */
export function readDescriber(
  bytes: Uint8Array,
  TextDecoder: Decoder,
  language?: string,
): Described<AnyDescriber> {
  if (bytes.length > maxDescriberBytes)
    throw new Problem('describer.tooLarge', { what: 'bytes', limit: maxDescriberBytes });
  if (isPackage(bytes)) return readPackage(bytes, TextDecoder, language);
  return readText(fileText(bytes, TextDecoder), [], language);
}

const isXml = (text: string) => /^[\s\ufeff]*</.test(text.slice(0, 4000));

function readText(
  text: string,
  languageFiles: string[],
  language?: string,
  defects = new Defects(),
): Described<AnyDescriber> {
  const root = isXml(text) ? readXml(text, defects) : undefined;
  const file = { text, root, defects, language, languageFiles };
  const kind = describerKinds.find((k) => k.sniff(file)) as DescriberKind<AnyDescriber> | undefined;
  if (!kind) throw new Problem('describer.noKind', { found: root?.name.slice(0, 60) ?? '' });
  return kind.read(file);
}

/**
 * What of several descriptions in one package is the newest: the schema (its namespace has the month), then the release
 * date, then the version.
 */
function newness(text: string): string {
  const head = text.slice(0, 8000);
  const schema = /IODD\/(\d{4}\/\d{2})/.exec(head)?.[1] ?? '';
  const released = /releaseDate="([\d-]*)"/.exec(head)?.[1] ?? '';
  const version = /\bversion="V?([\d.]+)"/i.exec(head.slice(head.indexOf('DocumentInfo')))?.[1] ?? '';
  return [schema, released, version.replace(/\d+/g, (n) => n.padStart(6, '0'))].join(' ');
}

/** The newest describer of a package, with the language files beside it; that there were others is said. */
function readPackage(bytes: Uint8Array, TextDecoder: Decoder, language?: string): Described<AnyDescriber> {
  const files = [...filesOf(bytes)].map(([name, file]) => ({ name, text: fileText(file, TextDecoder) }));
  const isLanguage = (text: string) => /<(\w+:)?ExternalTextDocument[\s>]/.test(text.slice(0, 4000));
  const mains = files
    .filter(({ text }) => /<(\w+:)?(IODevice|ISO15745Profile)[\s>]/.test(text.slice(0, 4000)))
    .map((file) => ({ ...file, newness: newness(file.text) }))
    .sort((a, b) => (a.newness < b.newness ? 1 : a.newness > b.newness ? -1 : 0));
  const [main, ...others] = mains;
  if (main === undefined) throw new Problem('package.noDescriber', {});
  const defects = new Defects();
  if (others.length)
    defects.add(1, 'package.chosen', { file: main.name, others: others.map((o) => o.name).join(', ') });
  const languages = files.flatMap(({ text }) => (isLanguage(text) ? [text] : []));
  return readText(main.text, languages, language, defects);
}
