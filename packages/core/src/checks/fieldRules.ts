import { allImages, fieldEnd, imageTitle, type ImagePlace } from '../cell/find.js';
import { overlapsIn } from '../layout/placement.js';
import { finding } from '../messages/finding.js';
import { groupsBy, type Rule } from './rule.js';

const placeOf = ({ device, image }: ImagePlace) => ({ device: device.id, image: image.id });
const titleOf = ({ device, image }: ImagePlace) => imageTitle(device, image.direction);

/** Two fields of one image use the same bits. */
export const fieldOverlap: Rule = (cell) =>
  allImages(cell).flatMap((place) =>
    overlapsIn(place.image.fields).map(({ first, second, fromBit, toBit }) =>
      finding(
        'field.overlap',
        'error',
        { ...placeOf(place), field: second.id },
        {
          image: titleOf(place),
          first: first.name,
          second: second.name,
          fromBit,
          toBit,
        },
      ),
    ),
  );

/** A field reaches past the last byte of its image. */
export const fieldPastEnd: Rule = (cell) =>
  allImages(cell).flatMap((place) =>
    place.image.fields
      .filter((field) => fieldEnd(field) > place.image.size * 8)
      .map((field) =>
        finding(
          'field.pastEnd',
          'error',
          { ...placeOf(place), field: field.id },
          {
            image: titleOf(place),
            field: field.name,
            endsAtByte: (fieldEnd(field) - 1) >> 3,
            size: place.image.size,
          },
        ),
      ),
  );

/** Two fields of one image have the same name; capitals do not tell them apart in IEC 61131-3 (6.1.2). */
export const fieldNameTwice: Rule = (cell) =>
  allImages(cell).flatMap((place) =>
    groupsBy(place.image.fields, (f) => f.name.toLowerCase())
      .filter((group) => group.length > 1)
      .map((group) =>
        finding(
          'field.nameTwice',
          'warning',
          { ...placeOf(place), field: group[1]!.id },
          {
            image: titleOf(place),
            name: group[0]!.name,
            count: group.length,
          },
        ),
      ),
  );
