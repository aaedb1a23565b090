import {
  allImages,
  bitOfAddress,
  bothSides,
  imageTitle,
  Problem,
  sceneOf,
  signalsOf,
  type AddressScene,
  type Cell,
  type Finding,
  type Signal,
} from '@fadenkreuz/core';

/** Where something is looked at. */
export type Target =
  | { to: 'bit'; image: string; bit: number }
  | { to: 'device'; device: string }
  /** A view of the cell, by its path. */
  | { to: 'view'; path: string }
  /** A page outside the cell. */
  | { to: 'page'; path: string };

export interface Hit<T = Target> {
  title: string;
  detail: string;
  go: T;
}

/** A cell beside the one that is open. */
export interface OtherCell {
  id: string;
  name: string;
  subnet: string;
}

/** Hits of one sort that are shown at most. */
const mostOfOne = 8;

/** Views of a cell and what is done there, in the words by which people look for it. */
const views: readonly [path: string, title: string, words: string][] = [
  ['line-up', 'Line-up', 'devices add device new device from a file import EDS GSDML IODD copy move'],
  ['line-up/reticle', 'Line-up, reticle', 'picture rings update times load'],
  ['line-up/wire', 'Line-up, wire', 'scan search the network assign address listen BOOTP DHCP found planned'],
  ['line-up/addresses', 'Line-up, addresses', 'IP plan ranges subnet print'],
  ['parameters', 'Parameters', 'parameter list import export CSV'],
  ['line-up/library', 'Line-up, library', 'describers description files import'],
  ['sight', 'Sight', 'image bytes bits crosshair'],
  ['sight/table', 'Sight, table', 'paste import fields from a manual'],
  ['sight/compare', 'Sight, compare', 'differences against the description'],
  ['sight/print', 'Sight, print', 'byte map print'],
  ['bench', 'Bench', 'values device’s side machine what changed which bit chart trace record faults'],
  ['exchanges', 'Exchanges', 'handshake run record step by step score function block'],
  ['motion', 'Motion', 'drive train motor nameplate gear torque moves units inertia'],
  ['motion?part=hand', 'Motion, by hand', 'jog manual step home go to direction check'],
  ['safety', 'Safety', 'curtain muting reset logic status bits approve approval'],
  ['hand-over', 'Hand-over', 'code structured text signal list download export cell file'],
];

const viewHits: readonly (Hit & { words: string })[] = [
  ...views.map(([path, title, words]) => ({
    ...{ title: `Go to ${title}`, detail: 'view', words },
    go: { to: 'view', path } as const,
  })),
  {
    ...{
      title: 'All cells',
      detail: 'page',
      words: 'cells new cell rename subnet copy delete restore import export a cell file',
    },
    go: { to: 'page', path: '/cells' },
  },
];

/** Where a finding is seen and cured: its parameter, its field, its device; undefined for one of the whole cell. */
export function targetOf(
  { place, code }: Pick<Finding, 'place'> & Partial<Pick<Finding, 'code'>>,
  cell: Cell,
): Target | undefined {
  // Where it answers instead, if it does, is seen on the wire.
  if (code === 'link.unreachable') return { to: 'view', path: 'line-up/wire?scan' };
  if (place.parameter && place.device) {
    const query = new URLSearchParams({ device: place.device, parameter: place.parameter });
    return { to: 'view', path: `parameters?${query}` };
  }
  const image = allImages(cell).find((p) => p.image.id === place.image)?.image;
  if (image) {
    const at = image.fields.find((f) => f.id === place.field)?.at ?? 0;
    return { to: 'bit', image: image.id, bit: Math.min(at, Math.max(0, image.size * 8 - 1)) };
  }
  return place.device ? { to: 'device', device: place.device } : undefined;
}

/** Texts of a signal that its name does not say: labels of values and of bits, unit, note. */
const meanings = (signal: Signal) =>
  [...signal.labels, ...signal.bitLabels].map((l) => l.text).concat(signal.unit, signal.note);

/** A bit of an image that the text names; undefined where it names none. */
function bitNamed(text: string, scene: AddressScene): number | undefined {
  try {
    return bitOfAddress(text, scene);
  } catch (error) {
    if (error instanceof Problem) return undefined;
    throw error;
  }
}

/**
 * What the text means as an address. A bare one is looked for in the image under the crosshair; a direct one, a
 * register or a signal of a numbered range in every image.
 */
function addressHits(cell: Cell, text: string, crosshair: string | undefined): Hit[] {
  if (!/\d/.test(text) || /^\d+\.\d+\.\d/.test(text)) return [];
  const [, sort, rest = text] =
    /^(signal|point|register|reg|holding|input register)s?\s+(\S.*)$/i.exec(text.trim()) ?? [];
  const numbered = /^(signal|point)/i.test(sort ?? '');
  const direct = text.trim().startsWith('%');
  return allImages(cell)
    .filter(({ image }) => direct || sort !== undefined || image.id === crosshair)
    .flatMap((place) => {
      const scene = sceneOf(cell, place);
      if (sort && (numbered ? place.image.numbering === null : scene.runs === undefined)) return [];
      const bit = bitNamed(text, scene) ?? (sort ? bitNamed(rest, scene) : undefined);
      if (bit === undefined) return [];
      const { controller, device } = bothSides(scene, bit);
      const detail = imageTitle(place.device, place.image.direction);
      const go = { to: 'bit', image: place.image.id, bit } as const;
      return [{ title: `${controller.text} ↔ ${device.text}`, detail, go }];
    });
}

/**
 * Everything of a cell that a text names: addresses of either side, devices by name, designation, kind and address,
 * images, fields by name and meaning, parameters, findings, views and what is done there, other cells. Without a text,
 * the views.
 */
export function findHits(
  cell: Cell,
  findings: readonly Finding[],
  text: string,
  crosshair: string | undefined,
  others: readonly OtherCell[] = [],
): Hit[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return [...viewHits];
  const fits = (...texts: string[]) => {
    const all = texts.join(' ').toLowerCase();
    return words.every((word) => all.includes(word));
  };
  const some = <T>(all: readonly T[], hit: (one: T) => Hit | undefined): Hit[] => {
    const found: Hit[] = [];
    for (const one of all) {
      const own = found.length < mostOfOne ? hit(one) : undefined;
      if (own) found.push(own);
    }
    return found;
  };
  const images = allImages(cell);
  const devices = some(cell.devices, (d) =>
    fits(d.name, d.designation, d.kind, d.maker, d.serves, d.address)
      ? {
          ...{ title: d.name, detail: [d.kind, d.address].join(' · ') },
          go: { to: 'device', device: d.id },
        }
      : undefined,
  );
  const imageHits = some(images, ({ device, image }) =>
    fits(imageTitle(device, image.direction), `instance ${image.instance}`)
      ? {
          title: imageTitle(device, image.direction),
          detail: `instance ${image.instance}, ${image.size} bytes`,
          go: { to: 'bit', image: image.id, bit: 0 },
        }
      : undefined,
  );
  const fields = images.flatMap((place) =>
    some(signalsOf(place.image), (signal) => {
      const { device, image } = place;
      const said = meanings(signal);
      if (!fits(signal.name, device.name, image.direction, ...said)) return undefined;
      const label = said.find((m) => m && words.some((word) => m.toLowerCase().includes(word)));
      const address =
        signal.at < image.size * 8
          ? bothSides(sceneOf(cell, place), signal.at).controller.text
          : 'past the end';
      return {
        title: signal.name,
        detail: [`${device.name} ${image.direction} · ${address}`, label].filter(Boolean).join(' · '),
        go: { to: 'bit', image: image.id, bit: signal.at },
      };
    }),
  );
  const parameters = cell.devices.flatMap((device) =>
    some(device.description.parameters, ({ id, code, name, group }) => {
      if (!fits('parameter', code, name, group, device.name)) return undefined;
      const query = new URLSearchParams({ device: device.id, parameter: id });
      return {
        ...{ title: [code, name].filter(Boolean).join(' '), detail: `parameter of ${device.name}` },
        go: { to: 'view', path: `parameters?${query}` },
      };
    }),
  );
  const found = some(findings, (finding) => {
    const go = targetOf(finding, cell);
    return go && fits('finding', finding.severity, finding.says)
      ? { title: finding.says, detail: finding.severity, go }
      : undefined;
  });
  const cells = some(others, ({ id, name, subnet }) =>
    fits('cell', name, subnet)
      ? { title: name, detail: `cell, ${subnet}`, go: { to: 'page', path: `/cells/${id}/line-up` } }
      : undefined,
  );
  const viewsFound = viewHits.filter((hit) => fits(hit.title, hit.words));
  return [
    ...addressHits(cell, text, crosshair),
    ...devices,
    ...imageHits,
    ...fields,
    ...parameters,
    ...viewsFound,
    ...cells,
    ...found,
  ];
}
