/** What a column of a table can hold; the titles stand in the header of our own tables. */
export const columns = {
  name: { title: 'name', heads: /^(name|signal|tag|variable|symbol|member|bezeichnung)/ },
  address: {
    title: 'address (byte.bit from 0)',
    heads:
      /^(address|addr|offset|byte ?(no|offset|address|nr|index)?\b|start|word ?(no|offset|address|nr|index)?\b|register|reference|adresse|point|position|(array )?element( ?(no|nr|index))?$|int(eger)?( ?(no|nr|index))?$)/,
  },
  bit: { title: 'bit', heads: /^bit( ?(no|nr|number|offset|pos(ition)?))?\.?$/ },
  length: { title: 'length (bits)', heads: /^(length|len|size|bytes|bits|words|width|l(ä|ae)nge)/ },
  type: { title: 'type', heads: /^(data ?)?(type|format)|^datentyp/ },
  order: { title: 'byte order', heads: /^(byte )?order|^endian/ },
  factor: { title: 'factor', heads: /^(factor|scal(e|ing)( factor)?|resolution|multiplier|gain|faktor|lsb)/ },
  add: { title: 'add', heads: /^(add|bias|value offset|scale offset)/ },
  decimals: { title: 'decimals', heads: /^decimal/ },
  unit: { title: 'unit', heads: /^(unit|uom|einheit|eng)/ },
  minimum: { title: 'minimum', heads: /^(min|least)/ },
  maximum: { title: 'maximum', heads: /^(max|most|greatest)/ },
  labels: { title: 'labels', heads: /^(labels|values|enum|value text)/ },
  bitLabels: { title: 'bit labels', heads: /^bit (labels|texts)/ },
  specials: { title: 'special numbers', heads: /^special/ },
  sign: { title: 'sign', heads: /^sign$/ },
  normallyClosed: { title: 'normally closed', heads: /^(normally closed|nc)$/ },
  safety: { title: 'safety', heads: /^safety/ },
  array: { title: 'array', heads: /^(array( (count|length|size))?$|count|elements$)/ },
  group: { title: 'group', heads: /^group/ },
  text: { title: 'text form', heads: /^text( form)?$/ },
  radix: { title: 'shown as', heads: /^(shown as|radix)/ },
  note: { title: 'note', heads: /^(note|comment|description|remark|meaning|function|beschreibung|info)/ },
  role: { title: 'role', heads: /^role$/ },
  bitRoles: { title: 'bit roles', heads: /^bit roles/ },
  sourceName: { title: 'name in the file', heads: /^name in the (file|manual)$/ },
} as const;

export type Column = keyof typeof columns;
export const columnNames = Object.keys(columns) as Column[];

/** Headings of columns that hold something and were taken for nothing: what is not understood is said. */
export const unusedHeadings = (
  rows: string[][],
  { headed, columns }: { headed: boolean; columns: readonly unknown[] },
): string[] =>
  headed
    ? (rows[0] ?? []).filter(
        (heading, i) => heading.trim() && !columns[i] && rows.slice(1).some((row) => row[i]?.trim()),
      )
    : [];

/** What can stand in the columns of a kind of table, in the order in which headings are tried. */
export type Columns<C extends string> = Readonly<Record<C, { title: string; heads: RegExp }>>;

/**
 * The column that a heading names: one of our own titles, or the first that it fits; those of `special` are tried
 * before the others.
 */
export function columnOfHeading<C extends string>(
  heading: string,
  known: Columns<C>,
  special: readonly C[] = [],
): C | undefined {
  const text = heading.trim().toLowerCase();
  const names = Object.keys(known) as C[];
  return (
    names.find((c) => known[c].title === text) ??
    [...special, ...names].find((c) => known[c].heads.test(text))
  );
}

/** Whether the first row of a table holds headings, and what stands in each column; no column is taken twice. */
export function headedColumns<C extends string>(
  rows: string[][],
  known: Columns<C>,
  special: readonly C[] = [],
): { headed: boolean; columns: (C | null)[] } {
  const first = rows[0] ?? [];
  const named = first.map((heading) => columnOfHeading(heading, known, special) ?? null);
  const headed =
    named.filter(Boolean).length >= 2 || (named.some(Boolean) && !first.some((c) => /^\d/.test(c)));
  const width = Math.max(0, ...rows.map((r) => r.length));
  const columns = Array.from({ length: width }, (_, i) => (headed ? (named[i] ?? null) : null));
  return { headed, columns: columns.map((c, i) => (columns.indexOf(c) === i ? c : null)) };
}
