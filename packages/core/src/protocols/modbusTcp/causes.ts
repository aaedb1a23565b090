import { anotherDevice, deviceBusy, type CauseRule } from '../cause.js';
import type { Symptoms } from '../symptoms.js';

const exceptionOf = (s: Symptoms) => (s.reason?.facts ?? {}) as { exception?: number; block?: string };

/** Causes that the exceptions of a Modbus device speak for. */
export const modbusTcpCauses: CauseRule[] = [
  {
    title: 'The registers are not where the plan has them',
    next: 'Compare first register and count of the block with the manual, and which number the manual counts from.',
    seen: (s) => {
      const { exception, block } = exceptionOf(s);
      return s.state !== 'open' && exception === 2 ? [[10, `${block}: exception 2, no such address`]] : [];
    },
  },
  {
    ...deviceBusy,
    seen: (s) => (s.state !== 'open' && exceptionOf(s).exception === 6 ? [[9, s.reason!.says]] : []),
  },
  {
    ...anotherDevice,
    seen: (s) => (s.reason?.code === 'link.otherDevice' ? [[10, s.reason.says]] : []),
  },
];
