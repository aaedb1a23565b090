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

function readText(text: string, languageFiles: string[], language?: string): Described<AnyDescriber> {
  const defects = new Defects();
  const root = isXml(text) ? readXml(text, defects) : undefined;
  const file = { text, root, defects, language, languageFiles };
  const kind = describerKinds.find((k) => k.sniff(file)) as DescriberKind<AnyDescriber> | undefined;
  if (!kind) throw new Problem('describer.noKind', { found: root?.name.slice(0, 60) ?? '' });
  return kind.read(file);
}

/** The one describer of a package, with the language files beside it. */
function readPackage(bytes: Uint8Array, TextDecoder: Decoder, language?: string): Described<AnyDescriber> {
  const texts = [...filesOf(bytes).values()].map((file) => fileText(file, TextDecoder));
  const isLanguage = (text: string) => /<(\w+:)?ExternalTextDocument[\s>]/.test(text.slice(0, 4000));
  const main = texts.find((text) => /<(\w+:)?(IODevice|ISO15745Profile)[\s>]/.test(text.slice(0, 4000)));
  if (main === undefined) throw new Problem('package.noDescriber', {});
  return readText(main, texts.filter(isLanguage), language);
}
