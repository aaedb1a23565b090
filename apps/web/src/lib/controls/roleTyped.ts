import { roleEntry, type RoleOf } from '@fadenkreuz/core';
import type { Note } from '$lib/desk/send.js';

/** The role that a text says, null for an empty one; undefined for one that there is not, which is told. */
export function roleTyped(text: string, tell: (note: Note) => void): RoleOf | null | undefined {
  if (text.trim() === '') return null;
  const role = roleEntry(text);
  if (!role) tell(noRole(text));
  return role;
}

/** What is said of a role that there is not. */
export const noRole = (text: string): Note => ({
  says: `There is no role “${text}”.`,
  cure: 'Choose one of the list; one of several has its number behind it, as “output 3”.',
});
