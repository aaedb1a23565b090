import type { Parameter } from '../devices/parameter.js';
import { readsOf } from '../layout/fieldTypes.js';
import { factsOfRole } from '../layout/role.js';
import { rolesByName } from './propose.js';

/** As sure as a name that says a role with hardly another word. */
const sureEnough = 0.75;

/**
 * Parameters without a role whose name says one, with it: what can only be read shows something, all others set it. Of
 * several that would have the same role none is given it.
 */
export function withProposedRoles(parameters: readonly Parameter[]): Parameter[] {
  const taken = new Set(parameters.flatMap(({ role }) => (role ? [`${role.is} ${role.number}`] : [])));
  const proposed = parameters.flatMap((parameter) => {
    const reads = readsOf(parameter);
    if (parameter.role || reads === 'text' || reads === 'bytes') return [];
    const [best] = rolesByName({
      ...{ name: parameter.name, unit: parameter.unit, bitString: false },
      direction: parameter.access === 'read' ? 'feedback' : 'command',
      reads: reads === 'boolean' ? 'bit' : 'number',
    });
    if (!best || best.sure < sureEnough || factsOfRole(best.role).safety) return [];
    const role = { is: best.role, number: best.number };
    return [{ ...parameter, role, named: `${role.is} ${role.number}` }];
  });
  const counts = new Map<string, number>();
  for (const { named } of proposed) counts.set(named, (counts.get(named) ?? 0) + 1);
  return proposed.flatMap(({ named, ...parameter }) =>
    counts.get(named) === 1 && !taken.has(named) ? [parameter] : [],
  );
}
