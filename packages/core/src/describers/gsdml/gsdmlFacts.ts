import { fieldFact, keptFacts, type Fact } from '../fact.js';
import { stretchFields } from './gsdmlFields.js';
import type { Gsdml, GsdmlParameter, GsdmlSubmodule } from './gsdml.js';

const submoduleFacts = (section: string, s: GsdmlSubmodule): Fact[] => [
  ...(['input', 'output'] as const).flatMap((side) => {
    const data = s[side];
    if (!data) return [];
    const items = data.items.map((i) => `${i.name} ${i.dataType}`).join(', ');
    const title = s.name || s.id;
    const fields = stretchFields([{ title, data }], () => 'described');
    return [
      { section, name: `${s.name} ${side}`, text: `${data.bytes} bytes: ${items}` },
      ...fields.map((f) => fieldFact(`${section}, ${s.name} ${side}`, f.name, f)),
    ];
  }),
  ...s.records.flatMap((r): Fact[] => [
    {
      section,
      name: `${s.name} record ${r.index}`,
      text: [
        `${r.bytes} bytes`,
        r.sequence ? `written as number ${r.sequence}` : '',
        ...r.constants.map((c) => `constant from byte ${c.byteOffset}: ${c.data}`),
      ]
        .filter(Boolean)
        .join('; '),
    },
    ...r.parameters.map((p) => ({
      section,
      name: `${s.name} record ${r.index}: ${p.name}`,
      ...parameterTexts(p),
    })),
  ]),
  ...(s.profisafe || s.fParameters.length
    ? [
        {
          section,
          name: `${s.name} PROFIsafe`,
          text: s.fParameters.map((f) => `${f.name} ${f.text}`).join(', ') || 'supported',
        },
      ]
    : []),
  ...s.channelDiagnosis.map((d) => ({
    section,
    name: `${s.name} channel error ${d.errorType}`,
    text: [d.name, d.help].filter(Boolean).join(': '),
  })),
];

function parameterTexts(p: GsdmlParameter): Pick<Fact, 'text' | 'means'> {
  const place =
    p.dataType === 'Bit' || p.dataType === 'BitArea'
      ? `bit ${p.byteOffset}.${p.bitOffset}`
      : `byte ${p.byteOffset}`;
  return {
    text: [
      place,
      p.length === null ? p.dataType : `${p.dataType} of ${p.length} bytes`,
      p.dataType === 'BitArea' ? `${p.bitLength} bits` : '',
      p.allowed && `allowed ${p.allowed}`,
      p.initial && `default ${p.initial}`,
      p.changeable ? '' : 'fixed',
      p.visible ? '' : 'hidden',
    ]
      .filter(Boolean)
      .join(', '),
    means: p.labels.map((l) => `${l.value} = ${l.text}`).join(', '),
  };
}

/** What a GSDML says, thing by thing. */
export const gsdmlFacts = ({ accessPoints, modules, submodules, kept }: Gsdml): Fact[] => [
  ...accessPoints.flatMap((a) => [
    { section: 'access point', name: a.name || a.id, text: `${a.orderNumber} ${a.softwareRelease}`.trim() },
    ...a.submodules.flatMap((s) => submoduleFacts(`access point ${a.name || a.id}`, s)),
  ]),
  ...modules.flatMap((m) => [
    { section: 'module', name: m.name || m.id, text: `16#${m.identNumber.toString(16).toUpperCase()}` },
    ...m.submodules.flatMap((s) => submoduleFacts(`module ${m.name || m.id}`, s)),
  ]),
  ...submodules.flatMap((s) => submoduleFacts('submodule', s)),
  ...keptFacts(kept),
];
