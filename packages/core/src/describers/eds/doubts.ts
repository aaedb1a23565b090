import type { Defects } from '../shared/defects.js';
import type { DescribedAssembly, Eds, Format, Stated } from './eds.js';
import type { Part } from './entries.js';
import { limitsNotKept } from '../shared/engineering.js';
import { unkeptLabels } from '../shared/fieldTexts.js';
import { scaleOf } from './connectionImages.js';
import { memberBits } from './memberBits.js';

/** What fits the grammar and yet cannot be: references to nothing, and sizes that do not add up. */
export function doubtful(describer: Eds, parts: ReadonlyMap<string, Part>, defects: Defects): void {
  const parameters = new Map(describer.parameters.map((p) => [p.number, p]));
  const assemblies = new Map(describer.assemblies.map((a) => [a.number, a]));
  const bitsOf = memberBits(parameters, assemblies);
  for (const assembly of describer.assemblies) {
    const entry = `Assem${assembly.number}`;
    const line = parts.get('assembly')!.lineOf(entry);
    for (const { refers } of assembly.members) {
      const there =
        refers.to === 'parameter'
          ? parameters.has(refers.number)
          : refers.to !== 'assembly' || assemblies.has(refers.number);
      if (there) continue;
      const word = refers.to === 'parameter' ? 'Param' : 'Assem';
      defects.add(line, 'described.dangling', {
        entry,
        refers: `${word}${(refers as { number: number }).number}`,
      });
    }
    if (holdsItself(assembly, assemblies)) defects.add(line, 'eds.circle', { entry });
    const bits = bitsOf(assembly);
    if (
      assembly.members.length > 0 &&
      assembly.size !== null &&
      bits !== undefined &&
      Math.ceil(bits / 8) !== assembly.size
    )
      defects.add(line, 'eds.size', { entry, stated: assembly.size, actual: Math.ceil(bits / 8) });
  }
  for (const parameter of describer.parameters) {
    const { number, name, labels } = parameter;
    const line = () => parts.get('params')!.lineOf(`Param${number}`);
    if (limitsNotKept(parameter, () => scaleOf(parameter)))
      defects.add(line(), 'described.limits', { entry: `Param${number} (${name})` });
    const lost = unkeptLabels(labels);
    if (lost) defects.add(line(), 'described.labels', { entry: `Param${number} (${name})`, ...lost });
  }
  for (const { number, name, scaling } of describer.parameters)
    if (scaling.divider === 0)
      defects.add(parts.get('params')!.lineOf(`Param${number}`), 'eds.divider', {
        entry: `Param${number}`,
        name,
      });
  for (const connection of describer.connections) {
    const entry = `Connection${connection.number}`;
    const { command, feedback, configuration, proxyConfiguration } = connection;
    const refers: (Stated | Format)[] = [command.rpi, feedback.rpi];
    for (const { size, format } of [command, feedback, configuration, proxyConfiguration])
      refers.push(size, format);
    for (const to of refers) {
      const dangling =
        to && 'parameter' in to && !parameters.has(to.parameter)
          ? `Param${to.parameter}`
          : to && 'assembly' in to && !assemblies.has(to.assembly)
            ? `Assem${to.assembly}`
            : undefined;
      if (dangling)
        defects.add(parts.get('connection manager')!.lineOf(entry), 'described.dangling', {
          entry,
          refers: dangling,
        });
    }
  }
  for (const group of describer.groups)
    for (const number of group.parameters)
      if (!parameters.has(number))
        defects.add(parts.get('groups')!.lineOf(`Group${group.number}`), 'described.dangling', {
          entry: `Group${group.number}`,
          refers: `Param${number}`,
        });
}

/** Whether an assembly is a member of itself, at whatever depth. */
function holdsItself(assembly: DescribedAssembly, all: ReadonlyMap<number, DescribedAssembly>): boolean {
  const seen = new Set<number>();
  const waiting = [assembly];
  for (let next = waiting.pop(); next; next = waiting.pop())
    for (const { refers } of next.members) {
      if (refers.to !== 'assembly') continue;
      if (refers.number === assembly.number) return true;
      if (seen.has(refers.number)) continue;
      seen.add(refers.number);
      const inner = all.get(refers.number);
      if (inner) waiting.push(inner);
    }
  return false;
}
