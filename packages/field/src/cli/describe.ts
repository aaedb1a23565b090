import { readFile, stat } from 'node:fs/promises';
import { Problem } from '@fadenkreuz/core';
import {
  connectionImages,
  countsOf,
  factsOf,
  maxDescriberBytes,
  readDescriber,
  summaryOf,
} from '@fadenkreuz/core/describers';
import { exitCodes, print } from './output.js';

/** Prints a description file as the model sees it, and what is wrong with the file. */
export async function runDescribe(
  path: string,
  { json = false, language }: { json?: boolean; language?: string },
): Promise<number> {
  const { describer, defects } = readDescriber(await bytesAt(path), TextDecoder, language);
  const { title, maker, vendor, product, revision, protocol } = summaryOf(describer);
  const counts = countsOf(describer)
    .map(([count, what]) => `${what} ${count}`)
    .join(', ');
  print(
    json,
    { kind: 'describer', describer },
    `${title}, ${maker} (${vendor}), product ${product}, revision ${revision}, ${protocol}: ${counts}`,
  );
  if (describer.source === 'eds')
    for (const { connection, command, feedback, configurationInstance } of connectionImages(describer)) {
      const side = ({ instance, size, fields }: typeof command) =>
        `instance ${instance}, ${size} bytes, ${fields.length} fields`;
      print(
        json,
        { kind: 'connection', name: connection.name, command, feedback, configurationInstance },
        `${connection.name}: command ${side(command)}; feedback ${side(feedback)}`,
      );
    }
  if ('languages' in describer && describer.languages.length > 1)
    print(
      json,
      { kind: 'languages', languages: describer.languages },
      `languages: ${describer.languages.join(', ')} (choose one with --language)`,
    );
  for (const fact of factsOf(describer)) {
    const means = fact.means ? `; ${fact.means}` : '';
    const said = fact.fileName ? ` (“${fact.fileName}”)` : '';
    print(json, { kind: 'fact', ...fact }, `${fact.section} | ${fact.name}${said}: ${fact.text}${means}`);
  }
  for (const defect of defects)
    print(json, { kind: 'defect', ...defect }, `line ${defect.line}: ${defect.says} ${defect.cure}`);
  return defects.length > 0 ? exitCodes.findings : exitCodes.done;
}

async function bytesAt(path: string): Promise<Uint8Array> {
  try {
    const { size } = await stat(path);
    if (size > maxDescriberBytes)
      throw new Problem('describer.tooLarge', { what: 'bytes', limit: maxDescriberBytes });
    return await readFile(path);
  } catch (cause) {
    if (cause instanceof Problem) throw cause;
    const reason = `cannot be read (${(cause as Error).message})`;
    throw new Problem('input.invalid', { where: path, reason }, { cause });
  }
}
