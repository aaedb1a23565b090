import { expect, test } from 'vitest';
import { gsdmlType } from './dataTypes.js';
import { gsdmlFacts } from './gsdmlFacts.js';
import { stretchFields } from './gsdmlFields.js';
import { readGsdml } from './readGsdml.js';

/** GSDML 2.x, from memory; the files are written for these tests. */
const read = (submodule: string) =>
  readGsdml(`<?xml version="1.0"?>
<ISO15745Profile><ProfileBody><DeviceIdentity VendorID="0xFE2E" DeviceID="1"><VendorName Value="Murmel"/></DeviceIdentity>
<DeviceFunction><Family MainFamily="I/O"/></DeviceFunction>
<ApplicationProcess><DeviceAccessPointList/><ModuleList><ModuleItem ID="M" ModuleIdentNumber="1"><ModuleInfo><Name TextId="T"/></ModuleInfo>
<VirtualSubmoduleList><VirtualSubmoduleItem ID="S" SubmoduleIdentNumber="1" PROFIsafeSupported="true">
${submodule}<ModuleInfo><Name TextId="T"/></ModuleInfo></VirtualSubmoduleItem></VirtualSubmoduleList></ModuleItem></ModuleList>
<ExternalTextList><PrimaryLanguage><Text TextId="T" Value="axis"/><Text TextId="H" Value="help"/></PrimaryLanguage></ExternalTextList>
</ApplicationProcess></ProfileBody></ISO15745Profile>`);
const submodule = (inside: string) => read(inside).describer.modules[0]!.submodules[0]!;

test('a record keeps constant data, its turn, what may be changed and seen, help and lengths', () => {
  const [record] =
    submodule(`<RecordDataList><ParameterRecordDataItem Index="100" Length="12" TransferSequence="2"><Name TextId="T"/>
    <Const ByteOffset="0" Data="0x00,0x01,0xAB"/>
    <Ref DataType="VisibleString" ByteOffset="4" Length="8" DefaultValue="ripe" Changeable="false" Visible="false" TextId="T"><Help TextId="H"/></Ref>
    </ParameterRecordDataItem></RecordDataList>`).records;
  expect(record).toMatchObject({
    ...{ index: 100, bytes: 12, sequence: 2, constants: [{ byteOffset: 0, data: '00 01 AB' }] },
    parameters: [
      { name: 'axis', initial: 'ripe', changeable: false, visible: false, help: 'help', length: 8 },
    ],
  });
});

test('a reference past its record is said', () => {
  const record = (ref: string) =>
    read(
      `<RecordDataList><ParameterRecordDataItem Index="1" Length="4"><Name TextId="T"/>${ref}</ParameterRecordDataItem></RecordDataList>`,
    );
  const codes = (ref: string) => record(ref).defects.map((d) => [d.code, d.facts]);
  expect(codes('<Ref DataType="Unsigned16" ByteOffset="2" TextId="T"/>')).toEqual([]);
  expect(codes('<Ref DataType="Unsigned16" ByteOffset="3" TextId="T"/>')).toEqual([
    ['described.pastRecord', { entry: 'axis', endsAtBit: 39, bits: 32 }],
  ]);
  expect(
    codes('<Ref DataType="BitArea" ByteOffset="3" BitOffset="6" BitLength="3" TextId="T"/>'),
  ).toHaveLength(1);
});

test('PROFIsafe, F-parameters, channel diagnosis and unknown parts are kept and shown, and not evaluated', () => {
  const s =
    submodule(`<RecordDataList><F_ParameterRecordDataItem Index="5" F_ParamDescCRC="4711"><F_SIL DefaultValue="SIL3"/></F_ParameterRecordDataItem></RecordDataList>
    <ChannelDiagList><ChannelDiagItem ErrorType="16"><Name TextId="T"/><Help TextId="H"/></ChannelDiagItem></ChannelDiagList><Wonder/>`);
  expect(s).toMatchObject({
    profisafe: true,
    channelDiagnosis: [{ errorType: 16, name: 'axis', help: 'help' }],
  });
  expect(s.fParameters).toContainEqual({ name: 'F_SIL.DefaultValue', text: 'SIL3' });
  expect(s.fParameters).toContainEqual({ name: 'F_ParameterRecordDataItem.F_ParamDescCRC', text: '4711' });
  const { kept } = read('<Wonder Of="nature"><Small>b</Small></Wonder>').describer;
  expect(kept).toContainEqual({
    name: 'Wonder',
    entries: [
      { keyword: 'S', fields: ['Of=nature'] },
      { keyword: 'S/Small', fields: ['b'] },
    ],
  });
  const facts = gsdmlFacts(
    read(
      '<ChannelDiagList><ChannelDiagItem ErrorType="16"><Name TextId="T"/></ChannelDiagItem></ChannelDiagList>',
    ).describer,
  );
  expect(facts.map((f) => f.name)).toContain('axis channel error 16');
});

test.each([
  [
    'Float32+Unsigned8',
    undefined,
    [
      ['REAL', 4],
      ['USINT', 1],
    ],
  ],
  [
    'OctetString+Unsigned8',
    5,
    [
      ['BYTES', 4],
      ['USINT', 1],
    ],
  ],
  ['OctetString', 7, [['BYTES', 7]]],
  ['TimeStamp', undefined, [['BYTES', 12]]],
  ['TimeOfDay without date indication', undefined, [['UDINT', 4]]],
  ['NetworkTime', undefined, [['BYTES', 8]]],
  ['Integer64', undefined, [['LINT', 8]]],
  ['F_MessageTrailer4Byte', undefined, [['BYTES', 4]]],
] as const)('%s has its true size', (name, length, parts) => {
  const type = gsdmlType(name, length)!;
  expect(type.parts.map((p) => [p.field, p.bytes])).toEqual(parts);
  expect(type.bytes).toBe(parts.reduce((sum, [, bytes]) => sum + bytes, 0));
});

test('a value with its status is two fields', () => {
  const { input } = submodule(
    `<IOData><Input><DataItem DataType="Float32+Unsigned8" TextId="T"/><DataItem DataType="Unsigned16" TextId="T"/></Input></IOData>`,
  );
  const fields = stretchFields([{ title: 'axis', data: input! }], () => 'f');
  expect(fields.map((f) => [f.name, f.type, f.at, f.order])).toEqual([
    ['axis', 'REAL', 0, 'big'],
    ['axis_status', 'USINT', 32, null],
    ['axis_2', 'UINT', 40, 'big'],
  ]);
});
