import { Field } from '../layout/field.js';
import type { Role } from '../layout/role.js';

/**
 * The standard telegrams 1 to 4 of PROFIdrive (IEC 61800-7-203, standard telegrams; from memory) as layouts: what the
 * drive is told and what it says, in words of 16 bits, high byte first. A speed is normalised: 16384 (16 bits) or
 * 1073741824 (32 bits) are 100 % of the reference speed.
 */
interface Signal {
  name: string;
  bits: 16 | 32;
  /** Normalised: shown in per cent. */
  normalised?: true;
  role?: Role;
}

const word = (name: string, role?: Role): Signal => ({ name, bits: 16, ...(role ? { role } : {}) });
const double = (name: string): Signal => ({ name, bits: 32 });
const speed = (name: string, bits: 16 | 32, role: Role): Signal => ({ name, bits, normalised: true, role });

const encoder = (n: number) => [word(`G${n}_ZSW`), double(`G${n}_XIST1`), double(`G${n}_XIST2`)];
const control = word('STW1', 'control word');
const status = word('ZSW1', 'status word');
const wide = {
  command: [control, speed('NSOLL_B', 32, 'speed reference'), word('STW2')],
  feedback: [status, speed('NIST_B', 32, 'speed actual'), word('ZSW2')],
};

const telegrams: Readonly<Record<1 | 2 | 3 | 4, { command: Signal[]; feedback: Signal[] }>> = {
  1: {
    command: [control, speed('NSOLL_A', 16, 'speed reference')],
    feedback: [status, speed('NIST_A', 16, 'speed actual')],
  },
  2: wide,
  3: { command: [...wide.command, word('G1_STW')], feedback: [...wide.feedback, ...encoder(1)] },
  4: {
    command: [...wide.command, word('G1_STW'), word('G2_STW')],
    feedback: [...wide.feedback, ...encoder(1), ...encoder(2)],
  },
};

/** Both sides of a standard telegram as fields, with their lengths in bytes. */
export function standardTelegram(
  number: 1 | 2 | 3 | 4,
  newId: () => string,
): { command: Field[]; feedback: Field[]; commandBytes: number; feedbackBytes: number } {
  const laid = (signals: readonly Signal[]) => {
    let at = 0;
    const fields = signals.map(({ name, bits, normalised, role }) => {
      const field = Field.parse({
        ...{ id: newId(), name, at, bits, order: 'big' },
        type: normalised ? (bits === 16 ? 'INT' : 'DINT') : bits === 16 ? 'WORD' : 'DWORD',
        // 2^14 or 2^30 are 100 %.
        ...(normalised ? { unit: '%', scale: { factor: `25/${2 ** (bits - 4)}`, offset: '0' } } : {}),
        ...(role ? { role: { is: role } } : {}),
      });
      at += bits;
      return field;
    });
    return { fields, bytes: at / 8 };
  };
  const [command, feedback] = [laid(telegrams[number].command), laid(telegrams[number].feedback)];
  return {
    ...{ command: command.fields, feedback: feedback.fields },
    ...{ commandBytes: command.bytes, feedbackBytes: feedback.bytes },
  };
}
