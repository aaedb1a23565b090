import type { Defects } from '../shared/defects.js';
import type { AssemblyMember, DescribedAssembly, DescribedParameter, Eds } from './eds.js';
import type { Part } from './entries.js';

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
    const bits = bitsOf(assembly);
    if (
      assembly.members.length > 0 &&
      assembly.size !== null &&
      bits !== undefined &&
      Math.ceil(bits / 8) !== assembly.size
    )
      defects.add(line, 'eds.size', { entry, stated: assembly.size, actual: Math.ceil(bits / 8) });
  }
  for (const connection of describer.connections) {
    const entry = `Connection${connection.number}`;
    const { command, feedback, configuration } = connection;
    for (const { size, format } of [command, feedback, configuration]) {
      for (const stated of [size, format]) {
        const dangling =
          stated && 'parameter' in stated && !parameters.has(stated.parameter)
            ? `Param${stated.parameter}`
            : stated && 'assembly' in stated && !assemblies.has(stated.assembly)
              ? `Assem${stated.assembly}`
              : undefined;
        if (dangling)
          defects.add(parts.get('connection manager')!.lineOf(entry), 'described.dangling', {
            entry,
            refers: dangling,
          });
      }
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

/**
 * Bits of all members of each assembly; undefined where one of them cannot be said, as in an assembly that holds
 * itself.
 */
function memberBits(
  parameters: ReadonlyMap<number, DescribedParameter>,
  assemblies: ReadonlyMap<number, DescribedAssembly>,
): (assembly: DescribedAssembly) => number | undefined {
  // An assembly whose sum is being made stands here as undefined: who meets it goes in a circle.
  const sums = new Map<DescribedAssembly, number | undefined>();
  const bitsOf = (assembly: DescribedAssembly): number | undefined => {
    if (sums.has(assembly)) return sums.get(assembly);
    sums.set(assembly, undefined);
    let sum: number | undefined = 0;
    for (const { bits, refers } of assembly.members) {
      const own: number | undefined = bits ?? referredBits(refers);
      sum = own === undefined || sum === undefined ? undefined : sum + own;
    }
    sums.set(assembly, sum);
    return sum;
  };
  const referredBits = (refers: AssemblyMember['refers']): number | undefined => {
    if (refers.to === 'nothing') return 0;
    if (refers.to === 'path') return undefined;
    if (refers.to === 'parameter') {
      const size = parameters.get(refers.number)?.size;
      return size === undefined ? undefined : size * 8;
    }
    const inner = assemblies.get(refers.number);
    if (!inner) return undefined;
    return inner.members.length > 0 ? bitsOf(inner) : inner.size === null ? undefined : inner.size * 8;
  };
  return bitsOf;
}
