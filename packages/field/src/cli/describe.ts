import { readFile, stat } from 'node:fs/promises';
import { Problem } from '@fadenkreuz/core';
import { connectionImages, edsLimits, fileText, readEds } from '@fadenkreuz/core/describers';
import { exitCodes, print } from './output.js';

/** Prints a description file as the model sees it, and what is wrong with the file. */
export async function runDescribe(path: string, { json = false }: { json?: boolean }): Promise<number> {
  const { describer, defects } = readEds(await textAt(path));
  const { device } = describer;
  const images = connectionImages(describer);
  const { majorRevision, minorRevision } = device;
  print(
    json,
    { kind: 'describer', describer },
    `${device.productName}, ${device.vendorName} (${device.vendor}), product code ${device.productCode}, revision ${majorRevision}.${minorRevision}: ${describer.parameters.length} parameters, ${describer.assemblies.length} assemblies`,
  );
  for (const { connection, command, feedback, configurationInstance } of images) {
    const side = ({ instance, size, fields }: typeof command) =>
      `instance ${instance}, ${size} bytes, ${fields.length} fields`;
    print(
      json,
      { kind: 'connection', name: connection.name, command, feedback, configurationInstance },
      `${connection.name}: command ${side(command)}; feedback ${side(feedback)}`,
    );
  }
  for (const defect of defects)
    print(json, { kind: 'defect', ...defect }, `line ${defect.line}: ${defect.says} ${defect.cure}`);
  return defects.length > 0 ? exitCodes.findings : exitCodes.done;
}

async function textAt(path: string): Promise<string> {
  try {
    // A file of UTF-8 may have four bytes for a character.
    const { size } = await stat(path);
    if (size > 4 * edsLimits.characters)
      throw new Problem('describer.tooLarge', { what: 'characters', limit: edsLimits.characters });
    return fileText(await readFile(path), TextDecoder);
  } catch (cause) {
    if (cause instanceof Problem) throw cause;
    const reason = `cannot be read (${(cause as Error).message})`;
    throw new Problem('input.invalid', { where: path, reason }, { cause });
  }
}
