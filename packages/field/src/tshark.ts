import { execFileSync } from 'node:child_process';

/** For tests: the fields that tshark's dissectors read from a capture, a row per packet that passes the filter. */
export function tsharkFields(
  file: string,
  filter: string,
  fields: readonly string[],
): Record<string, string>[] {
  const output = execFileSync(
    'tshark',
    [
      '-r',
      file,
      '-Y',
      filter,
      '-T',
      'fields',
      '-E',
      'separator=/t',
      '-E',
      'occurrence=a',
      ...fields.flatMap((f) => ['-e', f]),
    ],
    { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'], maxBuffer: 1 << 26 },
  );
  return output
    .split('\n')
    .filter(Boolean)
    .map((line) => Object.fromEntries(line.split('\t').map((value, i) => [fields[i]!, value])));
}
