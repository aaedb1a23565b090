import type { Fact } from '../fact.js';
import type { Gsdml, GsdmlSubmodule } from './gsdml.js';

const submoduleFacts = (section: string, s: GsdmlSubmodule): Fact[] => [
  ...(['input', 'output'] as const).flatMap((side) => {
    const data = s[side];
    if (!data) return [];
    const items = data.items.map((i) => `${i.name} ${i.dataType}`).join(', ');
    return [{ section, name: `${s.name} ${side}`, text: `${data.bytes} bytes: ${items}` }];
  }),
  ...s.records.map((r) => ({
    section,
    name: `${s.name} record ${r.index}`,
    text: r.parameters.map((p) => `${p.name} at ${p.byteOffset}`).join(', '),
  })),
];

/** What a GSDML says, thing by thing. */
export const gsdmlFacts = ({ accessPoints, modules, submodules }: Gsdml): Fact[] => [
  ...accessPoints.flatMap((a) => [
    { section: 'access point', name: a.name || a.id, text: `${a.orderNumber} ${a.softwareRelease}`.trim() },
    ...a.submodules.flatMap((s) => submoduleFacts(`access point ${a.name || a.id}`, s)),
  ]),
  ...modules.flatMap((m) => [
    { section: 'module', name: m.name || m.id, text: `16#${m.identNumber.toString(16).toUpperCase()}` },
    ...m.submodules.flatMap((s) => submoduleFacts(`module ${m.name || m.id}`, s)),
  ]),
  ...submodules.flatMap((s) => submoduleFacts('submodule', s)),
];
