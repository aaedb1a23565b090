import { imagesOf } from '../cell/find.js';
import { dimensionOf } from '../layout/dimension.js';
import type { Field } from '../layout/field.js';
import { factsOfRole, roleFits, roleText, type RoleOf } from '../layout/role.js';
import { finding, type Finding } from '../messages/finding.js';
import { fieldReads } from '../roles/fieldReads.js';
import { rolesOfKind } from '../roles/kindRoles.js';
import { placeOf, titleOf } from './fieldRules.js';
import { eachDevice, eachImage, groupsBy } from './rule.js';

/** What is wrong with the roles of fields and bits. */

interface Given {
  field: Field;
  bit: number | null;
  role: RoleOf;
}
const given = (fields: readonly Field[]): Given[] =>
  fields.flatMap((field) => [
    ...(field.role ? [{ field, bit: null, role: field.role }] : []),
    ...field.bitRoles.map(({ bit, role }) => ({ field, bit, role })),
  ]);
const nameOf = ({ field, bit }: Given): string => (bit === null ? field.name : `bit ${bit} of ${field.name}`);

/** Two fields of an image with one role: which of them it is, nobody knows. */
export const roleTwice = eachImage((place) =>
  groupsBy(given(place.image.fields), ({ role: { is, number } }) => roleText({ is, number }))
    .filter((group) => group.length > 1)
    .map((group) =>
      finding('role.twice', 'warning', placeOf(place, group[1]!.field.id), {
        ...{ image: titleOf(place), role: roleText(group[0]!.role) },
        fields: group.map(nameOf).join(' and '),
      }),
    ),
);

/** A role of the other direction, of another kind of value, or of another quantity. */
export const roleUnfit = eachImage((place) =>
  given(place.image.fields).flatMap((one): Finding[] => {
    const { field, bit, role } = one;
    const facts = factsOfRole(role.is);
    const { direction, reads, dimension } = facts;
    const as = bit === null ? fieldReads(field) : ({ reads: 'bit', bitString: false } as const);
    const measured = bit === null ? dimensionOf(field.unit) : undefined;
    const why =
      direction !== 'either' && direction !== place.image.direction
        ? `it is a ${direction} role`
        : !as || !roleFits(facts, as)
          ? `it is for a ${reads}, and this is ${as ? `a ${as.reads}` : 'raw bytes'}`
          : dimension && measured && dimension !== measured
            ? `it is a ${dimension}, and ${field.unit} is a ${measured}`
            : bit !== null && bit >= field.bits
              ? `the field has ${field.bits} bits`
              : undefined;
    if (why === undefined) return [];
    const said = { image: titleOf(place), field: nameOf(one), role: roleText(role), why };
    return [finding('role.unfit', 'warning', placeOf(place, field.id), said)];
  }),
);

/** A role that the kind cannot do without, where others have been given. */
export const roleMissing = eachDevice((device) => {
  const has = new Set(
    device.links.flatMap(imagesOf).flatMap((image) => given(image.fields).map(({ role }) => role.is)),
  );
  if (has.size === 0) return [];
  return rolesOfKind(device.kind)
    .needs.filter((oneOf) => !oneOf.some((role) => has.has(role)))
    .map(([role]) =>
      finding(
        'role.missing',
        'notice',
        { device: device.id },
        {
          ...{ device: device.name, kind: device.kind, role: factsOfRole(role).title },
        },
      ),
    );
});
