import demo from '@fadenkreuz/demo/ripening-store-3.json' with { type: 'json' };
import { Cell } from '@fadenkreuz/core';
import { describerOf, readDescriber, writeEds } from '@fadenkreuz/core/describers';
import { parse as splitIni } from 'ini';
import { SaxesParser } from 'saxes';

/**
 * Description files into the model, against what only splits or parses them: the `ini` package for EDS, a streaming XML
 * parser with namespaces for GSDML and IODD. One process, rounds in turn, medians; the machine is shared, so only
 * ratios count.
 */
const rounds = Number(process.argv[2] ?? 15);
const only = process.argv[3] ?? '';

/**
 * About so many bytes of EDS: the camera's data sheet, its parameters and assemblies over and over under new numbers.
 */
function edsOf(bytes: number): string {
  const camera = Cell.parse(demo.cell).devices.find((d) => d.name === 'rind_camera_v1')!;
  const describer = describerOf(camera);
  const one = writeEds(describer).length;
  const times = Math.ceil(bytes / one);
  const step = describer.parameters.length;
  const parameters = Array.from({ length: times }, (_, t) =>
    describer.parameters.map((p) => ({ ...p, number: p.number + t * step })),
  ).flat();
  return writeEds({ ...describer, parameters });
}

/** The same as most makers write it: a field a line, with a comment that says what it is. */
function commented(eds: string): string {
  const fields = /"(?:[^"\\]|\\.)*"|,/g;
  return eds.replace(/^.*;$/gm, (entry) =>
    entry.replace(fields, (part) =>
      part === ',' ? `,${' '.repeat(18)}$ as the standard says\n        ` : part,
    ),
  );
}

/** A module with data, bits, records and texts, over and over. */
function gsdmlOf(bytes: number): string {
  const module = (n: number) => `
        <ModuleItem ID="M${n}" ModuleIdentNumber="0x${(n + 0x1000).toString(16)}">
          <ModuleInfo><Name TextId="T_N${n}"/><InfoText TextId="T_I${n}"/><OrderNumber Value="X-${n}"/></ModuleInfo>
          <VirtualSubmoduleList>
            <VirtualSubmoduleItem ID="S${n}" SubmoduleIdentNumber="0x00000001">
              <IOData>
                <Input Consistency="All items consistency">
                  <DataItem DataType="Unsigned16" TextId="T_N${n}" UseAsBits="true">${Array.from({ length: 8 }, (_, b) => `<BitDataItem BitOffset="${b}" TextId="T_N${n}"/>`).join('')}</DataItem>
                  <DataItem DataType="Integer32" TextId="T_I${n}"/>
                </Input>
                <Output><DataItem DataType="Unsigned16" TextId="T_N${n}"/></Output>
              </IOData>
              <RecordDataList>
                <ParameterRecordDataItem Index="1" Length="4"><Name TextId="T_N${n}"/>${Array.from({ length: 4 }, (_, p) => `<Ref DataType="Unsigned8" ByteOffset="${p}" DefaultValue="0" AllowedValues="0..3" TextId="T_I${n}"/>`).join('')}</ParameterRecordDataItem>
              </RecordDataList>
              <ModuleInfo><Name TextId="T_N${n}"/><InfoText TextId="T_I${n}"/></ModuleInfo>
            </VirtualSubmoduleItem>
          </VirtualSubmoduleList>
        </ModuleItem>`;
  const texts = (n: number) => `
          <Text TextId="T_N${n}" Value="Module ${n}"/><Text TextId="T_I${n}" Value="What module ${n} is for"/>`;
  const count = Math.ceil(bytes / (module(1000).length + texts(1000).length));
  const each = (part: (n: number) => string) => Array.from({ length: count }, (_, n) => part(n)).join('');
  return `<?xml version="1.0"?>
<ISO15745Profile xmlns="http://www.profibus.com/GSDML/2003/11/DeviceProfile" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance">
  <ProfileBody>
    <DeviceIdentity VendorID="0xFE2E" DeviceID="0x1"><InfoText TextId="T_N0"/><VendorName Value="Murmel"/></DeviceIdentity>
    <ApplicationProcess>
      <DeviceAccessPointList><DeviceAccessPointItem ID="D" PhysicalSlots="0..64" ModuleIdentNumber="0x1"><ModuleInfo><Name TextId="T_N0"/></ModuleInfo></DeviceAccessPointItem></DeviceAccessPointList>
      <ModuleList>${each(module)}</ModuleList>
      <ExternalTextList><PrimaryLanguage>${each(texts)}</PrimaryLanguage></ExternalTextList>
    </ApplicationProcess>
  </ProfileBody>
</ISO15745Profile>`;
}

/** A variable with a range, named values and texts, over and over. */
function ioddOf(bytes: number): string {
  const variable = (n: number) => `
        <Variable id="V${n}" index="${100 + n}" accessRights="rw" defaultValue="0">
          <Datatype xsi:type="UIntegerT" bitLength="16"><ValueRange lowerValue="0" upperValue="1000"/><SingleValue value="0"><Name textId="T${n}"/></SingleValue></Datatype>
          <Name textId="T${n}"/><Description textId="D${n}"/>
        </Variable>`;
  const texts = (n: number) => `
      <Text id="T${n}" value="Setting ${n}"/><Text id="D${n}" value="What setting ${n} does"/>`;
  const count = Math.ceil(bytes / (variable(1000).length + texts(1000).length));
  const each = (part: (n: number) => string) => Array.from({ length: count }, (_, n) => part(n)).join('');
  return `<?xml version="1.0"?>
<IODevice xmlns="http://www.io-link.com/IODD/2010/10" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance">
  <ProfileBody>
    <DeviceIdentity vendorId="65013" vendorName="Murmel" deviceId="1"><DeviceName textId="T0"/></DeviceIdentity>
    <DeviceFunction><VariableCollection>${each(variable)}</VariableCollection></DeviceFunction>
  </ProfileBody>
  <ExternalTextCollection><PrimaryLanguage xml:lang="en">${each(texts)}</PrimaryLanguage></ExternalTextCollection>
</IODevice>`;
}

const bareXml = (text: string) => {
  let elements = 0;
  const parser = new SaxesParser({ xmlns: true });
  parser.on('opentag', () => (elements += 1));
  parser.write(text).close();
  return elements;
};

const cases = [
  {
    name: 'EDS, a field a line with its comment',
    text: commented(edsOf(230_000)),
    peer: 'ini',
    bare: (text: string) => splitIni(text),
    wanted: 1,
  },
  {
    name: 'EDS, an entry a line',
    text: edsOf(1.4e6),
    peer: 'ini',
    bare: (text: string) => splitIni(text),
    wanted: 1,
  },
  { name: 'GSDML, 5 MB', text: gsdmlOf(5e6), peer: 'saxes with namespaces', bare: bareXml, wanted: 2 },
  { name: 'IODD, 1 MB', text: ioddOf(1e6), peer: 'saxes with namespaces', bare: bareXml, wanted: 2 },
];

const median = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]!;
const timed = (work: () => unknown): number => {
  const from = performance.now();
  work();
  return performance.now() - from;
};

for (const { name, text, peer, bare, wanted } of cases.filter((c) => c.name.startsWith(only))) {
  const bytes = new TextEncoder().encode(text);
  const { defects } = readDescriber(bytes, TextDecoder);
  if (defects.length > 0) throw new Error(`${name} is not sound: ${defects[0]!.says}`);
  const ratios: number[] = [];
  const times = { ours: [] as number[], theirs: [] as number[] };
  for (let round = 0; round < rounds; round += 1) {
    const ours = timed(() => readDescriber(bytes, TextDecoder));
    const theirs = timed(() => bare(text));
    times.ours.push(ours);
    times.theirs.push(theirs);
    ratios.push(ours / theirs);
  }
  const heap = Math.round(process.memoryUsage().heapUsed / 1e6);
  console.log(
    `${name} (${(bytes.length / 1e6).toFixed(2)} MB): ${median(ratios).toFixed(2)} × ${peer} (wanted ${wanted}); ` +
      `${median(times.ours).toFixed(0)} ms and ${median(times.theirs).toFixed(0)} ms, heap ${heap} MB`,
  );
}
