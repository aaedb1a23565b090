import type { Cell, Device } from '../../cell/model.js';
import type { Parameter, ParameterPlace } from '../../devices/parameter.js';
import { bytesOfHex } from '../../bytes/hexBytes.js';
import { identifierOf, uniqueIdentifiers } from '../../entries/identifiers.js';
import { registerTables } from '../../layout/registerTables.js';
import { compareParameters } from '../../parameters/compare.js';
import { writePlan } from '../../parameters/writePlan.js';
import { placeText } from '../../tables/parameterPlace.js';
import { comment, hexText, indented } from './text.js';

/**
 * Structured text that writes the planned parameters of devices from the controller, one request at a time, and reads
 * each back. How the controller at hand sends a message stands in one block that is to be filled in.
 */

/** One request of a device, as it stands in the code. */
interface Request {
  parameter: Parameter;
  bytes: Uint8Array;
  why: 'value' | 'key' | 'lock';
}

/** The members of a request that say where the value stands, by the way of its place. */
const members: Readonly<Record<ParameterPlace['way'], readonly [name: string, note: string][]>> = {
  attribute: [
    ['class_id', 'class, instance and attribute (CIP)'],
    ['instance_id', ''],
    ['attribute_id', ''],
  ],
  register: [
    [
      'table',
      `0 ${registerTables[0]}, 1 ${registerTables[1]}, 2 ${registerTables[2]}, 3 ${registerTables[3]} (Modbus)`,
    ],
    ['first_register', 'address on the wire, from 0'],
  ],
  index: [
    ['index_number', 'index and subindex'],
    ['subindex', ''],
  ],
  record: [
    ['slot', 'slot, subslot and index of a data record, and its first byte'],
    ['subslot', ''],
    ['record_index', ''],
    ['first_byte', ''],
  ],
  pnu: [
    ['parameter_number', 'PROFIdrive parameter, its subindex, and the drive object'],
    ['parameter_subindex', ''],
    ['drive_object', ''],
  ],
  port: [
    ['port', 'port of the master, then index and subindex of the IO-Link device there'],
    ['port_index', ''],
    ['port_subindex', ''],
  ],
};

const placeValues = (place: ParameterPlace): readonly number[] => {
  switch (place.way) {
    case 'attribute':
      return [place.class, place.instance, place.attribute];
    case 'register':
      return [registerTables.indexOf(place.table), place.start];
    case 'index':
      return [place.index, place.subindex];
    case 'record':
      return [place.slot, place.subslot, place.index, place.at];
    case 'pnu':
      return [place.number, place.subindex, place.object];
    case 'port':
      return [place.port, place.index, place.subindex];
  }
};

/** What is written to a device: its planned values in their order, keys included. */
function requestsOf({ description: { parameters } }: Device): Request[] {
  const planned = new Map(
    compareParameters(parameters, {}).flatMap(({ parameter, values }): [string, string][] =>
      values.planned && 'hex' in values.planned && parameter.access !== 'read' && parameter.place
        ? [[parameter.id, values.planned.hex]]
        : [],
    ),
  );
  const byId = new Map(parameters.map((p) => [p.id, p]));
  return writePlan(parameters, planned).flatMap(({ parameter: id, bytes, why }) => {
    const parameter = byId.get(id)!;
    return parameter.place ? [{ parameter, bytes: bytesOfHex(bytes), why }] : [];
  });
}

const requestType = (requests: readonly Request[], room: number): string[] => {
  const ways = new Set(requests.map(({ parameter }) => parameter.place!.way));
  return [
    comment('One request for the value of a parameter'),
    'TYPE parameter_request_t :',
    'STRUCT',
    ...indented([
      `write : BOOL; ${comment('FALSE: it is read')}`,
      ...[...ways].flatMap((way) =>
        members[way].map(([name, note]) => `${name} : UINT;${note ? ` ${comment(note)}` : ''}`),
      ),
      `size : INT; ${comment('bytes of the value')}`,
      `value : ARRAY[0..${room - 1}] OF BYTE; ${comment('in the order in which they stand on the wire')}`,
      `reads_back : BOOL; ${comment('FALSE for a command, which is gone once it has acted')}`,
    ]),
    'END_STRUCT;',
    'END_TYPE',
  ];
};

const transport = (room: number): string[] => [
  comment(
    'Sends one request: the message call of the controller at hand is to be filled in here, and nowhere else',
  ),
  'FUNCTION_BLOCK parameter_transport',
  'VAR_INPUT',
  ...indented([
    `send : BOOL; ${comment('TRUE until ready or failed; then both must go back')}`,
    'request : parameter_request_t;',
  ]),
  'END_VAR',
  'VAR_OUTPUT',
  ...indented([
    'ready : BOOL;',
    'failed : BOOL;',
    `status : DINT; ${comment('what the device answered')}`,
    `answer : ARRAY[0..${room - 1}] OF BYTE; ${comment('of a request that reads')}`,
  ]),
  'END_VAR',
  ...indented([
    'IF NOT send THEN',
    '  ready := FALSE;',
    '  failed := FALSE;',
    'END_IF;',
    comment('fill in: start the message with request while send is TRUE; set ready, or failed and status'),
  ]),
  'END_FUNCTION_BLOCK',
];

/** What differs from the request before it is set; the rest stands. */
function requestLines({ parameter, bytes, why }: Request, index: number): string[] {
  const { name, code, place, role } = parameter;
  const title = [code, name].filter(Boolean).join(' ');
  const text =
    why === 'key' ? 'opens what follows' : why === 'lock' ? 'closes it again' : (parameter.planned ?? '');
  const values = placeValues(place!);
  const once = parameter.access === 'write' || role?.is === 'device command';
  return [
    `${index === 0 ? 'IF' : 'ELSIF'} index = ${index} THEN ${comment(`${title}: ${text}${parameter.unit && why === 'value' ? ` ${parameter.unit}` : ''}, ${placeText(place)}`)}`,
    ...indented([
      ...members[place!.way].map(([member], i) => `request.${member} := ${values[i]};`),
      `request.size := ${bytes.length};`,
      ...Array.from(bytes, (byte, i) => `request.value[${i}] := BYTE#${hexText(BigInt(byte))};`),
      `request.reads_back := ${once ? 'FALSE' : 'TRUE'};`,
    ]),
  ];
}

function sequencer(stem: string, device: Device, requests: readonly Request[], room: number): string[] {
  const end = (lines: readonly string[]) => ['busy := FALSE;', ...lines];
  const fail = (status: string) =>
    end(['error := TRUE;', 'error_index := index;', `error_status := ${status};`]);
  return [
    comment(
      `${device.name}: writes its ${requests.length} planned values one at a time, and reads each back`,
    ),
    `FUNCTION_BLOCK ${stem}_parameters`,
    'VAR_INPUT',
    ...indented([
      `execute : BOOL; ${comment('its rising edge begins')}`,
      `ready : BOOL; ${comment('these four from parameter_transport')}`,
      'failed : BOOL;',
      'status : DINT;',
      `answer : ARRAY[0..${room - 1}] OF BYTE;`,
    ]),
    'END_VAR',
    'VAR_OUTPUT',
    ...indented([
      `send : BOOL; ${comment('these two to parameter_transport')}`,
      'request : parameter_request_t;',
      'busy : BOOL;',
      'done : BOOL;',
      'error : BOOL;',
      `error_index : INT; ${comment('which of them')}`,
      `error_status : DINT; ${comment('what the device answered; -1: it reads back as another value')}`,
    ]),
    'END_VAR',
    'VAR',
    ...indented(['index : INT;', 'i : INT;', 'executed : BOOL;', 'reading : BOOL;', 'same : BOOL;']),
    'END_VAR',
    ...indented([
      'IF execute AND NOT executed AND NOT busy THEN',
      ...indented([
        'index := 0;',
        'reading := FALSE;',
        'send := FALSE;',
        'busy := TRUE;',
        'done := FALSE;',
        'error := FALSE;',
      ]),
      'END_IF;',
      'executed := execute;',
      'IF busy AND NOT send AND NOT ready AND NOT failed THEN',
      ...indented([
        ...requests.flatMap(requestLines),
        'END_IF;',
        'request.write := NOT reading;',
        'send := TRUE;',
      ]),
      'ELSIF busy AND send AND failed THEN',
      ...indented(['send := FALSE;', ...fail('status')]),
      'ELSIF busy AND send AND ready THEN',
      ...indented([
        'send := FALSE;',
        'IF NOT reading AND request.reads_back THEN',
        '  reading := TRUE;',
        'ELSE',
        ...indented([
          'same := TRUE;',
          `FOR i := 0 TO ${room - 1} DO`,
          '  IF reading AND i < request.size AND answer[i] <> request.value[i] THEN same := FALSE; END_IF;',
          'END_FOR;',
          'reading := FALSE;',
          'IF NOT same THEN',
          ...indented(fail('-1')),
          `ELSIF index = ${requests.length - 1} THEN`,
          ...indented(end(['done := TRUE;'])),
          'ELSE',
          '  index := index + 1;',
          'END_IF;',
        ]),
        'END_IF;',
      ]),
      'END_IF;',
    ]),
    'END_FUNCTION_BLOCK',
  ];
}

/**
 * The structured text (IEC 61131-3:2013) that writes what is planned for the parameters of a cell: a block for each
 * device that has planned values; empty where none has.
 */
export function parameterCode(cell: Cell): string {
  const all = cell.devices.map((device) => ({ device, requests: requestsOf(device) }));
  const some = all.filter(({ requests }) => requests.length > 0);
  if (some.length === 0) return '';
  const stems = uniqueIdentifiers(some.map(({ device }) => device.name));
  const requests = some.flatMap((s) => s.requests);
  const room = Math.max(...requests.map(({ bytes }) => bytes.length));
  return (
    [
      [
        comment(
          `${cell.name}: planned parameters for ${cell.controller.name}. Structured text, IEC 61131-3:2013.`,
        ),
      ],
      requestType(requests, room),
      transport(room),
      ...some.map(({ device, requests: own }, i) => sequencer(stems[i]!, device, own, room)),
    ]
      .map((lines) => lines.join('\n'))
      .join('\n\n') + '\n'
  );
}

/** The file name that it has. */
export const parameterCodeFile = (cell: Cell): string => `${identifierOf(cell.name)}_parameters.st`;
