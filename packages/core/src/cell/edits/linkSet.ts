import type { LinkSet } from '../link.js';
import { changed, checkedLater, editKind, partId } from './editKind.js';
import { withLink } from './parts.js';

const fixed = ['id', 'protocol', 'command', 'feedback'] as const;

/** Entries of a link. */
export const linkSet = editKind(
  'link.set',
  {
    link: partId,
    set: checkedLater<LinkSet>().refine(
      (set) => fixed.every((key) => !Object.hasOwn(set, key)),
      `cannot change ${fixed.join(', ')}`,
    ),
  },
  {
    apply: (cell, { link, set }) => withLink(cell, link, (l) => ({ ...l, ...set })),
    title: (_cell, { set }) => `change ${changed(set)} of a link`,
  },
);
