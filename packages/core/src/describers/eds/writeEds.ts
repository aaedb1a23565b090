import type { KeptSection } from '../shared/described.js';
import type { Exact } from '../shared/exact.js';
import type { DescribedConnection, Eds, Format, Stated } from './eds.js';

/** A describer as an electronic data sheet: readEds reads the same model out of it again. */
export function writeEds(describer: Eds): string {
  const { file, device, capacity, kept } = describer;
  const sections: [string, Line[]][] = [
    [
      'File',
      [
        ['DescText', quote(file.text)],
        ['CreateDate', plain(file.createDate)],
        ['CreateTime', plain(file.createTime)],
        ['ModDate', plain(file.modifiedDate)],
        ['ModTime', plain(file.modifiedTime)],
        ['Revision', plain(file.revision)],
        ['HomeURL', quote(file.homeUrl)],
      ],
    ],
    [
      'Device',
      [
        ['VendCode', device.vendor],
        ['VendName', quote(device.vendorName)],
        ['ProdType', device.deviceType],
        ['ProdTypeStr', quote(device.deviceTypeName)],
        ['ProdCode', device.productCode],
        ['MajRev', device.majorRevision],
        ['MinRev', device.minorRevision],
        ['ProdName', quote(device.productName)],
        ['Catalog', quote(device.catalog)],
      ],
    ],
    ['Device Classification', device.classification.map((name, i) => [`Class${i + 1}`, plain(name)])],
    ['Params', parameterLines(describer)],
    [
      'Groups',
      describer.groups.map((g) => [`Group${g.number}`, quote(g.name), g.parameters.length, ...g.parameters]),
    ],
    [
      'Assembly',
      describer.assemblies.map((a) => [
        `Assem${a.number}`,
        quote(a.name),
        quote(a.path),
        a.size,
        hex(a.descriptor, 4),
        '',
        '',
        ...a.members.flatMap(({ bits, refers }) => [
          // An empty pair would be no member at all.
          bits === null && refers.to === 'nothing' ? 0 : bits,
          refers.to === 'parameter'
            ? `Param${refers.number}`
            : refers.to === 'assembly'
              ? `Assem${refers.number}`
              : refers.to === 'path'
                ? quote(refers.path)
                : '',
        ]),
      ]),
    ],
    ['Connection Manager', describer.connections.map(connectionLine)],
    [
      'Port',
      describer.ports.map((p) => [`Port${p.number}`, plain(p.type), quote(p.name), quote(p.path), p.port]),
    ],
    [
      'Capacity',
      [
        ['MaxMsgConnections', capacity.messageConnections],
        ['MaxIOProducers', capacity.ioProducers],
        ['MaxIOConsumers', capacity.ioConsumers],
        ['MaxCIPConnections', capacity.cipConnections],
        ...capacity.traffic.map((t): Line => [`TSpec${t.number}`, plain(t.direction), t.bytes, t.packets]),
      ],
    ],
  ];
  const written = sections.map(([name, lines]) => section(name, lines, kept));
  const apart = kept.filter(
    ({ name }) => !sections.some(([own]) => own.toLowerCase() === name.toLowerCase()),
  );
  const others = apart.map(({ name, entries }) =>
    block(
      name,
      entries.map(({ keyword, fields }) => [keyword, ...fields]),
    ),
  );
  return [...written, ...others].filter(Boolean).join('\n');
}

type Line = [keyword: string, ...fields: (string | Exact | null)[]];

/** A section of ours with what was kept of the one that was read; none where there is nothing to say. */
function section(name: string, lines: Line[], kept: readonly KeptSection[]): string {
  const said = lines.filter(([, ...fields]) => fields.some((f) => f !== null && f !== '' && f !== '""'));
  const more = kept
    .filter((k) => k.name.toLowerCase() === name.toLowerCase())
    .flatMap(({ entries }) => entries.map(({ keyword, fields }): Line => [keyword, ...fields]));
  return said.length + more.length > 0 ? block(name, [...said, ...more]) : '';
}

const block = (name: string, lines: Line[]): string =>
  `[${name}]\n` +
  lines.map(([keyword, ...fields]) => `        ${keyword} =${fieldsText(fields)};\n`).join('');

/** Short entries on one line, long ones a field a line. */
function fieldsText(fields: readonly (string | Exact | null)[]): string {
  const texts = fields.map((f) => (f === null ? '' : String(f)));
  const short = ` ${texts.join(', ')}`;
  return short.length <= 90 ? short : `\n                ${texts.join(',\n                ')}`;
}

function parameterLines({ parameters }: Eds): Line[] {
  const link = (number: number | null) => (number === null ? '' : `Param${number}`);
  return parameters.flatMap((p): Line[] => {
    const { scaling: s } = p;
    const line: Line = [
      `Param${p.number}`,
      0,
      p.path === '' ? '' : p.path.split(' ').length,
      quote(p.path),
      hex(p.descriptor, 4),
      hex(p.dataType, 2),
      p.size,
      quote(p.name),
      quote(p.unit),
      quote(p.help),
      p.minimum,
      p.maximum,
      p.initialText ? quote(p.initialText) : p.initial,
      ...[s.multiplier, s.divider, s.base, s.offset],
      ...[s.multiplierLink, s.dividerLink, s.baseLink, s.offsetLink].map(link),
      p.decimals,
    ];
    const labels = p.labels.flatMap(({ value, text }) => [value, quote(text)]);
    return labels.length > 0 ? [line, [`Enum${p.number}`, ...labels]] : [line];
  });
}

const stated = (s: Stated): string | number =>
  s === null ? '' : 'value' in s ? s.value : `Param${s.parameter}`;
const format = (f: Format): string =>
  f === null ? '' : 'assembly' in f ? `Assem${f.assembly}` : `Param${f.parameter}`;

function connectionLine(c: DescribedConnection): Line {
  const { command, feedback, proxyConfiguration, configuration } = c;
  return [
    `Connection${c.number}`,
    hex(c.triggers, 8),
    hex(c.parameters, 8),
    ...[stated(command.rpi), stated(command.size), format(command.format)],
    ...[stated(feedback.rpi), stated(feedback.size), format(feedback.format)],
    ...[stated(proxyConfiguration.size), format(proxyConfiguration.format)],
    ...[stated(configuration.size), format(configuration.format)],
    quote(c.name),
    quote(c.help),
    quote(c.path),
  ];
}

const hex = (value: number, digits: number): string =>
  `0x${value.toString(16).toUpperCase().padStart(digits, '0')}`;

const escapes: Record<string, string> = {
  '\n': 'n',
  '\t': 't',
  '\v': 'v',
  '\b': 'b',
  '\r': 'r',
  '\f': 'f',
  '\x07': 'a',
};
/** A word without quotes, as dates and numbers of versions are; quoted where it would break the grammar. */
const plain = (text: string): string => (/^[\w:./ +-]*$/.test(text) ? text : quote(text));

const quote = (text: string): string =>
  // eslint-disable-next-line no-control-regex -- these are the characters that a text of this grammar escapes
  `"${text.replace(/["\\\n\t\v\b\r\f\x07]/g, (c) => `\\${escapes[c] ?? c}`)}"`;
