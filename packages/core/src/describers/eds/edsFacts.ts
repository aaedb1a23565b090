import { fieldFact, keptFacts, parameterFact, type Fact } from '../fact.js';
import { connectionImages, filledPath, type ConnectionImages } from './connectionImages.js';
import type { ConnectionDirection, DescribedParameter, Eds, Format, Stated } from './eds.js';
import { parametersOf } from './edsParameters.js';

/** What an EDS says, thing by thing: identity, the images of its first connection, and every connection in full. */
export function edsFacts(describer: Eds): Fact[] {
  const { device } = describer;
  const connections = connectionImages(describer);
  const [first] = connections;
  return [
    { section: 'identity', name: 'revision', text: `${device.majorRevision}.${device.minorRevision}` },
    ...(first ? imageFacts(first, '') : []),
    ...connections.flatMap((c, i) => connectionFacts(describer, c, i > 0)),
    ...parametersOf(describer, () => 'described').map(parameterFact),
    ...describer.parameters.flatMap((p) =>
      p.initialText ? [{ section: 'parameter', name: `${p.name} at first`, text: `“${p.initialText}”` }] : [],
    ),
    ...keptFacts(describer.kept),
  ];
}

const sides = ['command', 'feedback'] as const;

const imageFacts = (images: ConnectionImages, prefix: string): Fact[] =>
  sides.flatMap((side) => {
    const section = `${prefix}${side} image`;
    return [
      { section, name: 'instance', text: String(images[side].instance) },
      { section, name: 'size', text: `${images[side].size} bytes` },
      ...images[side].fields.map((f) => fieldFact(section, f.name, f)),
    ];
  });

/** The line of a connection in full; `further`: its images are not those of the first one. */
function connectionFacts(describer: Eds, images: ConnectionImages, further: boolean): Fact[] {
  const { connection, configurationInstance } = images;
  const title = connection.name || `Connection${connection.number}`;
  const section = `connection ${title}`;
  const path = filledPath(describer, connection.path);
  const direction = (name: string, { rpi, size, format }: ConnectionDirection): Fact => ({
    section,
    name,
    text: `RPI ${statedText(describer, rpi, 'µs')}, size ${statedText(describer, size, 'bytes')}, format ${formatText(format)}`,
  });
  return [
    { section, name: 'triggers and transports', text: maskText(connection.triggers) },
    { section, name: 'sizes, formats, types and priorities', text: maskText(connection.parameters) },
    direction('originator to target', connection.command),
    direction('target to originator', connection.feedback),
    {
      section,
      name: 'configuration',
      text: `${configurationInstance === null ? 'none' : `instance ${configurationInstance}`}, size ${statedText(describer, connection.configuration.size, 'bytes')}, format ${formatText(connection.configuration.format)}`,
    },
    {
      section,
      name: 'path',
      text: path === connection.path ? path : `${connection.path}, at first ${path}`,
    },
    ...(connection.help ? [{ section, name: 'help', text: connection.help }] : []),
    ...(further ? imageFacts(images, `${title}: `) : []),
  ];
}

const maskText = (mask: number) => `16#${mask.toString(16).toUpperCase().padStart(8, '0')}`;

const formatText = (format: Format): string =>
  format === null
    ? 'not stated'
    : 'assembly' in format
      ? `Assem${format.assembly}`
      : `Param${format.parameter}`;

/** A number, or the parameter that holds it with what it may be. */
function statedText({ parameters }: Eds, stated: Stated, unit: string): string {
  if (stated === null) return 'not stated';
  if ('value' in stated) return `${stated.value} ${unit}`;
  const parameter = parameters.find((p) => p.number === stated.parameter);
  return `Param${stated.parameter}${parameter ? ` (${rangeText(parameter, unit)})` : ''}`;
}

const rangeText = ({ minimum, maximum, initial }: DescribedParameter, unit: string): string =>
  [
    minimum !== null || maximum !== null ? `${minimum ?? '…'} to ${maximum ?? '…'} ${unit}` : '',
    initial !== null ? `at first ${initial}` : '',
  ]
    .filter(Boolean)
    .join(', ') || 'without limits';
