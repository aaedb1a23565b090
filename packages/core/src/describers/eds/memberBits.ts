import type { AssemblyMember, DescribedAssembly, DescribedParameter } from './eds.js';

/**
 * Bits of all members of each assembly; undefined where one of them cannot be said, as in an assembly that holds
 * itself.
 */
export function memberBits(
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
