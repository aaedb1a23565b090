import type { z } from 'zod';

type RawIssue = Parameters<z.core.$ZodErrorMap>[0];

/** What an entry should be, by the name that Zod has for it. */
const wanted: Readonly<Record<string, string>> = {
  int: 'a whole number',
  number: 'a number',
  string: 'a text',
  boolean: 'yes or no (true or false)',
  array: 'a list',
  object: 'a set of entries',
};
const shown = (values: readonly unknown[], most = 8): string =>
  [...values.slice(0, most).map(String), ...(values.length > most ? ['…'] : [])].join(', ');

/** What is wrong with an entry, in the words of who typed it; undefined: the schema has its own words for it. */
export function plainIssue(issue: RawIssue): string | undefined {
  switch (issue.code) {
    case 'invalid_type': {
      const what = wanted[issue.expected] ?? 'what belongs here';
      return issue.input === undefined ? `is missing: ${what} is wanted` : `is not ${what}`;
    }
    case 'too_big':
      if (issue.origin === 'string') return `is longer than ${issue.maximum} characters`;
      if (issue.origin === 'array') return `has more than ${issue.maximum} entries`;
      return `is more than ${issue.maximum}`;
    case 'too_small':
      if (issue.origin === 'string')
        return issue.minimum === 1 ? 'is empty' : `is shorter than ${issue.minimum} characters`;
      if (issue.origin === 'array') return `has fewer than ${issue.minimum} entries`;
      return `is less than ${issue.minimum}`;
    case 'invalid_value':
      return issue.values.length === 1
        ? `is not ${String(issue.values[0])}`
        : `is none of: ${shown(issue.values)}`;
    case 'invalid_union':
      return 'is in none of the forms that are known here';
    case 'unrecognized_keys':
      return `has an entry that does not belong here: ${shown(issue.keys)}`;
    default:
      return undefined;
  }
}
