/** What a column of a table can hold; the titles stand in the header of our own tables. */
export const columns = {
  name: { title: 'name', heads: /^(name|signal|tag|variable|symbol|member|bezeichnung)/ },
  address: {
    title: 'address (byte.bit from 0)',
    heads:
      /^(address|addr|offset|byte ?(no|offset|address|nr|index)?\b|start|word ?(no|offset|address|nr|index)?\b|register|reference|adresse|point|position)/,
  },
  bit: { title: 'bit', heads: /^bit( ?(no|nr|number|offset|pos(ition)?))?\.?$/ },
  length: { title: 'length (bits)', heads: /^(length|len|size|bytes|bits|words|width|l(ä|ae)nge)/ },
  type: { title: 'type', heads: /^(data ?)?(type|format)|^datentyp/ },
  order: { title: 'byte order', heads: /^(byte )?order|^endian/ },
  factor: { title: 'factor', heads: /^(factor|scal(e|ing)( factor)?|resolution|multiplier|gain|faktor|lsb)/ },
  add: { title: 'add', heads: /^(add|bias|value offset|scale offset)/ },
  decimals: { title: 'decimals', heads: /^decimal/ },
  unit: { title: 'unit', heads: /^(unit|uom|einheit|eng)/ },
  least: { title: 'least', heads: /^(least|min)/ },
  most: { title: 'most', heads: /^(most|max)/ },
  labels: { title: 'labels', heads: /^(labels|values|enum|value text)/ },
  bitLabels: { title: 'bit labels', heads: /^bit (labels|texts)/ },
  specials: { title: 'special numbers', heads: /^special/ },
  sign: { title: 'sign', heads: /^sign$/ },
  normallyClosed: { title: 'normally closed', heads: /^(normally closed|nc)$/ },
  safety: { title: 'safety', heads: /^safety/ },
  array: { title: 'array', heads: /^(array|count|elements)/ },
  group: { title: 'group', heads: /^group/ },
  text: { title: 'text form', heads: /^text( form)?$/ },
  radix: { title: 'shown as', heads: /^(shown as|radix)/ },
  note: { title: 'note', heads: /^(note|comment|description|remark|meaning|function|beschreibung|info)/ },
} as const;

export type Column = keyof typeof columns;
export const columnNames = Object.keys(columns) as Column[];

/** The column that a heading names. Special ones first: `bit labels` is no bit. */
export function columnOfHeading(heading: string): Column | undefined {
  const text = heading.trim().toLowerCase();
  const exact = columnNames.find((c) => columns[c].title === text);
  const special = (['bitLabels', 'bit'] as const).find((c) => columns[c].heads.test(text));
  return exact ?? special ?? columnNames.find((c) => columns[c].heads.test(text));
}
