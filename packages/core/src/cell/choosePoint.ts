import { pointTitle, type ConnectionPoint, type DescriptionOf } from '../devices/description.js';
import type { Field } from '../layout/field.js';
import type { Direction, Image } from '../layout/image.js';
import { protocolOf } from '../protocols/list.js';
import { carriedFields, type Fate } from './carried.js';
import type { EditOf } from './edits/edit.js';
import type { Link } from './link.js';

/** What choosing another connection point for an image does to it, before it is done. */
export interface PointChoice {
  edit: EditOf<'image.point'>;
  /** Fields by name: kept with all that was entered for them, given another place or meaning, gone, and new. */
  fields: { name: string; what: Fate }[];
}

/** The same bits, read as the same value: what was entered for one then holds for the other. */
const sameValue = (own: Field, now: Field) =>
  own.at === now.at &&
  own.bits === now.bits &&
  own.type === now.type &&
  own.order === now.order &&
  (own.unit === now.unit || own.unit === '' || now.unit === '') &&
  (JSON.stringify(own.scale) === JSON.stringify(now.scale) || (now.scale === null && now.unit === ''));

/**
 * An image that exchanges this point of its device's description: with its number, its size and its layout. Where the
 * description does not say the layout, that of the image stays as far as it fits. Ids of new fields come from `newId`.
 */
export function choosePoint(image: Image, point: ConnectionPoint, newId: () => string): PointChoice {
  const described = point.fields !== null;
  const layout = described
    ? renamed(point.groups, point.fields ?? [], newId)
    : { groups: image.groups, fields: image.fields.filter((f) => f.at + f.bits <= point.size * 8) };
  const { parts, fates } = carriedFields(image, layout, sameValue);
  return {
    edit: {
      edit: 'image.point',
      image: image.id,
      title: pointTitle(point).slice(0, 80).trim(),
      set: {
        instance: point.number,
        size: point.size,
        ...(point.order === null ? {} : { order: point.order }),
      },
      groups: layout.groups,
      fields: parts,
    },
    fields: fates,
  };
}

/** A described layout with ids of its own: those of a description are known in it alone. */
function renamed(
  groups: Image['groups'],
  fields: readonly Field[],
  newId: () => string,
): Pick<Image, 'groups' | 'fields'> {
  const ids = new Map([...groups, ...fields].map(({ id }) => [id, newId()]));
  const of = (id: string) => ids.get(id) ?? id;
  return {
    groups: groups.map((g) => ({ ...g, id: of(g.id), parent: g.parent && of(g.parent) })),
    fields: fields.map((f) => ({
      ...f,
      id: of(f.id),
      group: f.group && of(f.group),
      sign: f.sign?.way === 'bit' ? { ...f.sign, field: of(f.sign.field) } : f.sign,
      decimals: f.decimals?.way === 'field' ? { ...f.decimals, field: of(f.decimals.field) } : f.decimals,
    })),
  };
}

/** The points that an image of this link may exchange, by the description of its device. */
export const pointsOf = (link: Link, direction: Direction, description: DescriptionOf): ConnectionPoint[] =>
  protocolOf(link).choices?.(link, direction, description) ?? [];
