import type { KeptSection } from './described.js';
import type { XmlElement } from './xml.js';

/** Parts that a reader understands; what else stands beside them is kept. */
const understood = new Set([
  ...[
    'ProfileHeader',
    'ProfileBody',
    'CommNetworkProfile',
    'ExternalTextCollection',
    'DocumentInfo',
    'Stamp',
  ],
  ...['DeviceIdentity', 'DeviceFunction', 'ApplicationProcess', 'Family'],
  ...[
    'DatatypeCollection',
    'VariableCollection',
    'ProcessDataCollection',
    'EventCollection',
    'ErrorTypeCollection',
  ],
  ...['UserInterface', 'Features', 'DeviceAccessPointList', 'ModuleList', 'SubmoduleList', 'ValueList'],
  ...['ExternalTextList', 'GraphicsList', 'CategoryList'],
]);

/** What stands under these elements and is not understood: names and attributes, as sections of entries. */
export const keptOf = (...parents: (XmlElement | undefined)[]): KeptSection[] =>
  parents.flatMap((parent) =>
    (parent?.children ?? [])
      .filter(({ name }) => !understood.has(name))
      .map((element) => ({
        name: element.name,
        entries: (element.children.length > 0 ? element.children : [element]).map(
          ({ name, attributes, text }) => ({
            keyword: name,
            fields: [
              ...Object.entries(attributes).map(([key, value]) => `${key}=${value}`),
              ...(text ? [text] : []),
            ],
          }),
        ),
      })),
  );
