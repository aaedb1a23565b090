import type { Columns } from './columns.js';

/** What a column of a table of parameters can hold; the titles stand in the header of our own tables. */
export const parameterColumns = {
  code: {
    title: 'code',
    heads: /^(code|no|nr|number|par(am(eter)?)?\.? ?(no|nr|number|code|id)|p-?no|id)\b\.?/,
  },
  whole: { title: 'group / code / name', heads: /^[\w ]+[/|][\w ]*par[\w ]*[/|] ?name$/ },
  name: { title: 'name', heads: /^(name|parameter|designation|function|bezeichnung|title)/ },
  place: { title: 'place', heads: /^(place|path|access path)/ },
  class: { title: 'class', heads: /^class/ },
  instance: { title: 'instance', heads: /^inst/ },
  attribute: { title: 'attribute', heads: /^attr/ },
  register: { title: 'register', heads: /^(register|modbus|reference|holding|address|addr)/ },
  pnu: { title: 'PNU', heads: /^pnu/ },
  port: { title: 'port', heads: /^port( no| number)?$/ },
  index: { title: 'index', heads: /^(index|idx|object index)/ },
  subindex: { title: 'subindex', heads: /^sub-? ?ind?e?x/ },
  type: { title: 'type', heads: /^(data ?)?(type|format)|^datentyp/ },
  length: { title: 'length (bits)', heads: /^(length|len|size|bytes|bits|words|width|l(ä|ae)nge)/ },
  order: { title: 'byte order', heads: /^(byte )?order|^endian/ },
  access: { title: 'access', heads: /^(access|r\/?w|read|rights)/ },
  factor: { title: 'factor', heads: /^(factor|scal(e|ing)( factor)?|resolution|step|increment|faktor|lsb)/ },
  add: { title: 'add', heads: /^(add$|bias|value offset|offset)/ },
  unit: { title: 'unit', heads: /^(unit|uom|einheit|eng)/ },
  range: { title: 'range', heads: /^((setting|value|adjust\w*) )?range|^(wertebereich|limits)/ },
  minimum: { title: 'minimum', heads: /^(min|least)/ },
  maximum: { title: 'maximum', heads: /^(max|most|greatest)/ },
  initial: { title: 'default', heads: /^(initial|default|factory|preset|werkseinstellung)/ },
  planned: { title: 'planned', heads: /^(planned|target|set(ting)? value|soll)/ },
  decimals: { title: 'decimals by', heads: /^(decimals( by)?|decimal (parameter|places))/ },
  retained: { title: 'kept', heads: /^(kept|retained|retention|storage|stored)/ },
  stopFirst: { title: 'stop first', heads: /^(stop first|needs stop|only at standstill)/ },
  afterRestart: { title: 'after restart', heads: /^(after restart|needs restart)/ },
  labels: { title: 'labels', heads: /^(labels|values|options|settings?|selection|enum)/ },
  role: { title: 'role', heads: /^role$/ },
  key: { title: 'key', heads: /^key$/ },
  group: { title: 'group', heads: /^(group|menu|chapter|category)/ },
  note: { title: 'note', heads: /^(note|comment|description|remark|meaning|help|beschreibung|info)/ },
} as const satisfies Columns<string>;

export type ParameterColumn = keyof typeof parameterColumns;
export const parameterColumnNames = Object.keys(parameterColumns) as ParameterColumn[];
