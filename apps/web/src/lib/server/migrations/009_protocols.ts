import { deviceFromVersion2 } from '@fadenkreuz/core';
import type { Knex } from 'knex';

/** What only one protocol has gets a table of its own; devices get their descriptions. */
export async function up(db: Knex): Promise<void> {
  const own = (t: Knex.CreateTableBuilder, parent: 'link' | 'device') => {
    t.text('cell_id').notNullable().references('cell.id').onDelete('CASCADE');
    t.text('id').notNullable();
    t.primary(['cell_id', 'id']);
    t.foreign(['cell_id', 'id']).references(['cell_id', 'id']).inTable(parent).onDelete('CASCADE');
  };
  const times = (t: Knex.CreateTableBuilder) => {
    for (const column of ['command_rpi', 'feedback_rpi', 'timeout_multiplier'])
      t.integer(column).notNullable();
  };
  await db.schema.createTable('link_ethernet_ip', (t) => {
    own(t, 'link');
    times(t);
    for (const column of ['to_controller', 'trigger', 'command_format', 'feedback_format'])
      t.text(column).notNullable();
    t.integer('configuration_instance').notNullable();
    t.text('configuration_data').notNullable();
  });
  await db.schema.createTable('link_modbus_tcp', (t) => {
    own(t, 'link');
    for (const column of ['unit', 'port', 'timeout_multiplier']) t.integer(column).notNullable();
  });
  await db.schema.createTable('link_profinet', (t) => {
    own(t, 'link');
    times(t);
    // `json`, not `jsonb`: rows are compared as text, and jsonb does not keep the order of keys.
    t.json('slots').notNullable();
  });
  // One document a device, read and written as a whole (docs/decisions/0016).
  await db.schema.createTable('description', (t) => {
    own(t, 'device');
    for (const column of ['origin', 'points']) t.json(column).notNullable();
    for (const column of ['identity', 'loss', 'offer']) t.json(column);
  });

  await describe(db);
  for (const [protocol, columns] of Object.entries(ownColumns)) {
    const names = columns.join(', ');
    const table = tableOf(protocol);
    await db.raw(
      `insert into ${table} (cell_id, id, ${names}) select cell_id, id, ${names} from link where protocol = ?`,
      [protocol],
    );
  }
  await splitChanges(db);
  await db.schema.alterTable('link', (t) => t.dropColumns(...allOwn));
}

const ownColumns: Record<string, string[]> = {
  'ethernet-ip': [
    ...['command_rpi', 'feedback_rpi', 'timeout_multiplier', 'to_controller', 'trigger', 'command_format'],
    ...['feedback_format', 'configuration_instance', 'configuration_data'],
  ],
  'modbus-tcp': ['unit', 'port', 'timeout_multiplier'],
  profinet: ['command_rpi', 'feedback_rpi', 'timeout_multiplier', 'slots'],
};
const allOwn = [...new Set(Object.values(ownColumns).flat())];
const tableOf = (protocol: string) => `link_${protocol.replaceAll('-', '_')}`;

type Row = Record<string, unknown> & { id: string };
interface Change {
  table: string;
  id: string;
  before: Row | null;
  after: Row | null;
}

/** Changes so far name the link table alone; they can still be taken back, and earlier versions still be shown. */
async function splitChanges(db: Knex): Promise<void> {
  for (const { cell_id, version, rows } of await db('change').select<
    { cell_id: string; version: number; rows: Change[] }[]
  >('cell_id', 'version', 'rows')) {
    if (!rows.some((change) => change.table === 'link')) continue;
    const split = rows.flatMap((change) => (change.table === 'link' ? splitChange(change) : [change]));
    await db('change')
      .where({ cell_id, version })
      .update({ rows: JSON.stringify(split) });
  }
}

function splitChange({ table, id, before, after }: Change): Change[] {
  const common = (row: Row | null): Row | null =>
    row && (Object.fromEntries(Object.entries(row).filter(([column]) => !allOwn.includes(column))) as Row);
  const part = (row: Row | null, protocol: string): Row | null =>
    row && row['protocol'] === protocol
      ? {
          id,
          ...Object.fromEntries(
            ownColumns[protocol]!.map((column) => [column, row[column] ?? defaults[column]]),
          ),
        }
      : null;
  return [
    { table, id, before: common(before), after: common(after) },
    ...Object.keys(ownColumns)
      .map((protocol) => ({
        table: tableOf(protocol),
        id,
        before: part(before, protocol),
        after: part(after, protocol),
      }))
      .filter((change) => JSON.stringify(change.before) !== JSON.stringify(change.after)),
  ];
}

/** What columns were when a change was made before they existed. */
const defaults: Record<string, unknown> = {
  to_controller: 'point-to-point',
  trigger: 'cyclic',
  command_format: 'run-idle',
  feedback_format: 'modeless',
  unit: 255,
  port: 502,
  slots: [],
};

/** Descriptions of the devices as they stand, made as for a cell file of the version before. */
async function describe(db: Knex): Promise<void> {
  const [devices, links, images, blocks, fields, groups] = await Promise.all(
    ['device', 'link', 'image', 'block', 'field', 'field_group'].map((table) => db(table).select<Row[]>()),
  );
  for (const device of devices!) {
    const mine = (row: Row) => row['cell_id'] === device['cell_id'];
    const imageOf = (link: Row, direction: string) => {
      const image = images!.find((i) => mine(i) && i['link_id'] === link.id && i['direction'] === direction);
      return {
        ...{ id: image?.id, instance: image?.['instance'], size: image?.['size'], start: image?.['start'] },
        ...{ order: image?.['byte_order'], direction },
        fields: fields!
          .filter((f) => mine(f) && f['image_id'] === image?.id)
          .sort((a, b) => Number(a['position']) - Number(b['position']))
          .map((f) => ({
            ...{ id: f.id, name: f['name'], type: f['type'], at: f['at'], bits: f['bits'] },
            ...{ order: f['byte_order'], unit: f['unit'], group: f['group_id'], array: f['array'] },
            ...{ text: f['text'], sign: f['sign'], decimals: f['decimals'], limits: f['limits'] },
            ...{ labels: f['labels'], bitLabels: f['bit_labels'], specials: f['specials'] },
            ...{ normallyClosed: f['normally_closed'], safety: f['safety'], note: f['note'] },
            radix: f['radix'],
            scale: f['scale_factor'] === null ? null : { factor: f['scale_factor'], offset: f['scale_add'] },
          })),
        groups: groups!
          .filter((g) => mine(g) && g['image_id'] === image?.id)
          .map(({ id, name, count, stride, parent_id: parent, first }) => ({
            ...{ id, name, count },
            ...{ stride, parent, first },
          })),
      };
    };
    const old = {
      standIn: device['stand_in'],
      links: links!
        .filter((l) => mine(l) && l['device_id'] === device.id)
        .map((link) => ({
          ...{
            id: link.id,
            protocol: link['protocol'],
            connection: link['connection'],
            onLoss: link['on_loss'],
          },
          ...{ commandRpi: link['command_rpi'], feedbackRpi: link['feedback_rpi'] },
          ...{ timeoutMultiplier: link['timeout_multiplier'], unit: link['unit'], port: link['port'] },
          ...{ slots: link['slots'] },
          configuration: { instance: link['configuration_instance'], data: link['configuration_data'] },
          blocks: blocks!
            .filter((b) => mine(b) && b['link_id'] === link.id)
            .sort((a, b) => Number(a['position']) - Number(b['position']))
            .map(({ id, name, direction, table, start, count, poll, at }) => ({
              ...{ id, name, direction, table },
              ...{ start, count, poll, at },
            })),
          command: imageOf(link, 'command'),
          feedback: imageOf(link, 'feedback'),
        })),
    };
    const { description } = deviceFromVersion2(old) as { description: Record<string, unknown> };
    const json = (value: unknown) => (value === null ? null : JSON.stringify(value));
    await db('description').insert({
      ...{ cell_id: device['cell_id'], id: device.id },
      ...{ origin: json(description['origin']), points: json(description['points']) },
      ...{
        identity: json(description['identity']),
        loss: json(description['loss']),
        offer: json(description['offer']),
      },
    });
  }
}

/** There is no way back to rows that cannot hold what is stored now. */
export function down(): Promise<void> {
  return Promise.reject(new Error('This step has no way back: restore a copy of the database.'));
}
