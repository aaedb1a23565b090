import type { LogicBlock, SafetyLogic, StatusBit, Wire } from './safetyLogic.js';

/** What the blocks of a network mean, in sentences. */

const seconds = (s: number) => `${s} s`;

/** When the block is 1. A circle, or what is not there, is said as such. */
export function meaningOf(
  logic: Pick<SafetyLogic, 'blocks'>,
  id: string,
  above: readonly string[] = [],
): string {
  const block = logic.blocks.find((b) => b.id === id);
  if (!block) return 'something that is not there';
  if (above.includes(id)) return `${block.name}, which reads itself`;
  const wire = ({ from, not }: Wire) => {
    const said = meaningOf(logic, from, [...above, id]);
    return not ? `not (${said})` : said;
  };
  return sentence(block, wire);
}

function sentence(block: LogicBlock, wire: (one: Wire) => string): string {
  const joined = (wires: readonly Wire[], by: string) =>
    wires
      .map((one) => (/ (and|or) /.test(wire(one)) && wires.length > 1 ? `(${wire(one)})` : wire(one)))
      .join(by);
  const first = (wires: readonly Wire[], n = 0) => (wires[n] ? wire(wires[n]) : 'nothing');
  switch (block.is) {
    case 'curtain':
      return `no beam of ${block.name} is interrupted`;
    case 'door':
      return `${block.name} is closed`;
    case 'emergency stop':
      return `${block.name} is not pressed`;
    case 'button':
      return `${block.name} is pressed`;
    case 'two-hand':
      return `both hands are on ${block.name}`;
    case 'mode':
      return `${block.name} stands at ${block.position}`;
    case 'and':
      return joined(block.in, ' and ') || 'nothing';
    case 'or':
      return joined(block.in, ' or ') || 'nothing';
    case 'not':
      return `not (${first(block.in)})`;
    case 'delay on':
      return `${first(block.in)}, for ${seconds(block.after)} at least`;
    case 'delay off':
      return `${first(block.in)}, or did so less than ${seconds(block.after)} ago`;
    case 'reset':
      return `${first(block.in)}, and since then ${first(block.in, 1)}${block.edge === 'falling' ? ' and was let go' : ''}`;
    case 'muting':
      return `${first(block.in)}, or is bridged while ${first(block.in, 1)} and ${first(block.in, 2)}`;
    case 'output':
      return first(block.in);
  }
}

/** What a status bit says when it is 1. */
export function statusMeaning(logic: SafetyLogic, { from, shows, beam, not }: StatusBit): string {
  const name = logic.blocks.find(({ id }) => id === from)?.name ?? 'something that is not there';
  const said = {
    value: meaningOf(logic, from),
    muting: `${name} is muting`,
    'reset wanted': `${name} waits for its reset`,
    beam: `beam ${beam} of ${name} arrives`,
  }[shows];
  return not ? `not (${said})` : said;
}
