import { zipSync } from 'fflate';
import { describe, expect, test } from 'vitest';
import { readDescriber } from '../read.js';
import type { Iodd } from './iodd.js';
import { processDataFields } from './ioddFields.js';
import { readIodd } from './readIodd.js';

/** IODD 1.1 and the IO-Link interface specification V1.1.3, from memory; the files are written for these tests. */
const iodd = (
  device: string,
  { prefix = 'xsi', version = 'V1.0', month = '2010/10' } = {},
) => `<?xml version="1.0"?>
<IODevice xmlns="http://www.io-link.com/IODD/${month}" xmlns:${prefix}="http://www.w3.org/2001/XMLSchema-instance">
 <DocumentInfo version="${version}" releaseDate="2026-01-01"/>
 <ProfileBody><DeviceIdentity vendorId="65013" deviceId="7" vendorName="Murmel"><DeviceName textId="T"/></DeviceIdentity>
 <DeviceFunction>${device}</DeviceFunction></ProfileBody>
 <ExternalTextCollection><PrimaryLanguage xml:lang="en"><Text id="T" value="X"/></PrimaryLanguage></ExternalTextCollection>
</IODevice>`;
const read = (device: string, options = {}) => readIodd(iodd(device, options));
const process = (inside: string, ui = '', options = {}) =>
  read(
    `<ProcessDataCollection><ProcessData id="P">${inside}</ProcessData></ProcessDataCollection><UserInterface>${ui}</UserInterface>`,
    options,
  );
const ids = () => 'f';

test('every element of an array, subindex 1 first and so with the highest offset', () => {
  // Interface specification, annex F.3, as remembered: five elements of three bits have the offsets 12, 9, 6, 3, 0.
  const { describer } = process(
    `<ProcessDataIn id="PI" bitLength="15"><Datatype xsi:type="ArrayT" count="5"><SimpleDatatype xsi:type="UIntegerT" bitLength="3"/></Datatype></ProcessDataIn>`,
    `<ProcessDataRefCollection><ProcessDataRef processDataId="PI"><ProcessDataInfo subindex="2" gradient="0.5" unitCode="1013"/></ProcessDataRef></ProcessDataRefCollection>`,
  );
  const { input } = describer.processData[0]!;
  expect(input!.type.items.map((i) => [i.subindex, i.bitOffset])).toEqual([
    [1, 12],
    [2, 9],
    [3, 6],
    [4, 3],
    [5, 0],
  ]);
  const fields = processDataFields(input!, 0, ids);
  // Bits 14 to 12 of two bytes, the high one first.
  expect(fields.map((f) => [f.bits, f.unit])).toEqual([
    [3, ''],
    [3, 'mm'],
    [3, ''],
    [3, ''],
    [3, ''],
  ]);
  expect(fields[0]!.at).toBe(4);
});

test('process data that is no record has its scale and unit', () => {
  const { describer } = process(
    `<ProcessDataIn id="PI" bitLength="16"><Datatype xsi:type="IntegerT" bitLength="16"/><Name textId="T"/></ProcessDataIn>`,
    `<ProcessDataRefCollection><ProcessDataRef processDataId="PI"><ProcessDataInfo gradient="0.1" offset="-40" unitCode="1001"/></ProcessDataRef></ProcessDataRefCollection>`,
  );
  expect(processDataFields(describer.processData[0]!.input!, 0, ids)).toMatchObject([
    { name: 'x', type: 'INT', unit: '°C', scale: { factor: '1/10', offset: '-40' } },
  ]);
});

test('defaults of record items, and standard variables with their indexes', () => {
  const { describer, defects } = read(`<VariableCollection>
    <StdVariableRef id="V_ProfileCharacteristic"/><StdVariableRef id="V_PDInputDescriptor"/><StdVariableRef id="V_OffsetTime"/>
    <Variable id="V_R" index="70" accessRights="rw"><Datatype xsi:type="RecordT" bitLength="16">
      <RecordItem subindex="1" bitOffset="8"><SimpleDatatype xsi:type="UIntegerT" bitLength="8"/></RecordItem>
      <RecordItem subindex="2" bitOffset="0"><SimpleDatatype xsi:type="UIntegerT" bitLength="8"/></RecordItem></Datatype>
      <RecordItemInfo subindex="2" defaultValue="17"/></Variable></VariableCollection>`);
  expect(defects.map((d) => d.code)).toEqual([]);
  expect(describer.variables.map((v) => v.index)).toEqual([13, 14, 48, 70]);
  expect(describer.variables[2]!.type).toMatchObject({ kind: 'uint', bits: 8 });
  expect(describer.variables[3]!.type.items.map((i) => i.initial)).toEqual(['', '17']);
});

test('events and error types of the standard have their names', () => {
  const { describer, defects } =
    read(`<EventCollection><StdEventRef code="16912"/><StdEventRef code="1"/></EventCollection>
    <ErrorTypeCollection><StdErrorTypeRef code="128" additionalCode="17"/></ErrorTypeCollection>`);
  expect(describer.events[0]).toMatchObject({
    code: 0x4210,
    type: 'Warning',
    name: 'Device temperature over-run',
  });
  expect(describer.errors).toEqual([{ code: 128, additionalCode: 17, name: 'Index not available' }]);
  expect(defects.map((d) => d.code)).toEqual(['described.dangling']);
});

describe('what cannot be kept is said', () => {
  test('unknown units, unreadable gradients, conditions and menus that lead nowhere', () => {
    const { defects } =
      read(`<VariableCollection><Variable id="V_A" index="64"><Datatype xsi:type="UIntegerT" bitLength="8"/></Variable></VariableCollection>
      <ProcessDataCollection><ProcessData id="P"><Condition variableId="V_Gone" value="1"/></ProcessData></ProcessDataCollection>
      <UserInterface><MenuCollection><Menu id="M"><VariableRef variableId="V_A" gradient="a tenth" unitCode="9999"/><VariableRef variableId="V_None"/></Menu></MenuCollection></UserInterface>`);
    expect(defects.map((d) => d.code).sort()).toEqual([
      'described.dangling',
      'described.dangling',
      'iodd.scale',
      'iodd.unit',
    ]);
  });

  test('a condition without a value holds for no value, rather than for 0', () => {
    const { describer, defects } =
      read(`<VariableCollection><Variable id="V_A" index="64"><Datatype xsi:type="UIntegerT" bitLength="8"/></Variable></VariableCollection>
      <ProcessDataCollection>
        <ProcessData id="P"><Condition variableId="V_A"/></ProcessData>
        <ProcessData id="Q"><Condition variableId="V_A" value="2"/></ProcessData>
      </ProcessDataCollection>`);
    expect(describer.processData.map((p) => p.condition)).toEqual([
      null,
      { variable: 'V_A', subindex: 0, value: 2 },
    ]);
    expect(defects).toMatchObject([
      { code: 'described.lacks', facts: { entry: 'Condition', name: 'value' } },
    ]);
  });

  test('an attribute may be called as a property that every object has', () => {
    const { describer, defects } = read('<Menu constructor="a" toString="b"/>');
    expect(describer.kept).toMatchObject([
      { name: 'Menu', entries: [{ fields: ['constructor=a', 'toString=b'] }] },
    ]);
    expect(defects).toEqual([]);
  });

  test('any prefix for the types of XML Schema', () => {
    const { describer, defects } = process(
      `<ProcessDataIn id="PI" bitLength="8"><Datatype i:type="q:UIntegerT" bitLength="8"/></ProcessDataIn>`,
      '',
      { prefix: 'i' },
    );
    expect([describer.processData[0]!.input!.type.kind, defects]).toEqual(['uint', []]);
  });

  test('of several files in a package the newest is read, and that is told', () => {
    const bytes = (text: string) => new TextEncoder().encode(text);
    const files = {
      'old-IODD1.0.1.xml': bytes(iodd('', { month: '2009/11', version: 'V9.9' })),
      'new-IODD1.1.xml': bytes(iodd('', { version: 'V1.10' })),
      'new-IODD1.1-before.xml': bytes(iodd('', { version: 'V1.9' })),
    };
    const { describer, defects } = readDescriber(zipSync(files), TextDecoder);
    expect((describer as Iodd).document.version).toBe('V1.10');
    expect(defects[0]).toMatchObject({
      code: 'package.chosen',
      facts: { file: 'new-IODD1.1.xml', others: 'new-IODD1.1-before.xml, old-IODD1.0.1.xml' },
    });
  });
});
