import { hexText, Parts, type FramePart } from '../frameParts.js';
import { commands, itemTypes } from './encapsulation.js';
import { services } from './messageRouter.js';
import { statusText } from './status.js';

/**
 * An encapsulated message part by part (CIP Vol. 2, chapter 2; of its unconnected data Vol. 1, 2-4 and appendix C): for
 * whoever compares it with a manual.
 */
export function explainFrame(frame: Uint8Array): FramePart[] {
  const parts = new Parts(frame);
  const command = parts.number(2, 'command', (value) => nameOf(commands, value, ''));
  parts.number(2, 'length', (bytes) => `${bytes} bytes follow the header`);
  parts.number(4, 'session handle', hexText);
  parts.number(4, 'status', (value) => (value === 0 ? 'success' : hexText(value)));
  parts.take(8, 'sender context', 'comes back in the answer');
  parts.number(4, 'options');
  if (command !== commands.sendRRData && command !== commands.sendUnitData) {
    parts.rest('data');
    return parts.list;
  }
  parts.number(4, 'interface handle', (value) => (value === 0 ? 'CIP' : hexText(value)));
  parts.number(2, 'timeout', (s) => `${s} s`);
  const count = parts.number(2, 'item count');
  for (let item = 0; item < count && parts.left > 0; item += 1) {
    const type = parts.number(2, 'item type', (value) => nameOf(itemTypes, value));
    const size = parts.number(2, 'item length', (bytes) => `${bytes} bytes`);
    if (type === itemTypes.unconnectedData) explainMessage(parts, size);
    else if (type === itemTypes.connectedData) {
      parts.number(2, 'sequence count');
      explainMessage(parts, size - 2);
    } else parts.take(size, 'item data');
  }
  return parts.list;
}

const reply = 0x80;

function explainMessage(parts: Parts, size: number): void {
  const end = parts.left - size;
  const service = parts.number(1, 'service', (value) =>
    value & reply ? `answer to ${serviceText(value & ~reply)}` : serviceText(value),
  );
  if (service & reply) {
    parts.take(1, 'reserved');
    const status = parts.number(1, 'general status', (value) => statusOf(value));
    const words = parts.number(1, 'additional status', (n) => (n === 1 ? '1 word' : `${n} words`));
    for (let word = 0; word < words && parts.left > end; word += 1)
      parts.number(2, 'additional status word', (value) =>
        word === 0 && status !== 0
          ? `${hexText(value)} ${statusText(status, [value]).means}`.trim()
          : hexText(value),
      );
  } else {
    const words = parts.number(1, 'path size', (n) => `${n} words`);
    explainPath(parts, Math.max(parts.left - 2 * words, end));
  }
  if (parts.left > end) parts.take(parts.left - end, 'data');
}

const logicalTypes = ['class', 'instance', 'member', 'connection point', 'attribute'] as const;

/** The logical segments of a padded path; what else it has stays together. */
function explainPath(parts: Parts, end: number): void {
  while (parts.left > end) {
    const head = parts.number(1, 'segment', (value) => {
      const type = logicalTypes[(value >> 2) & 7];
      return value >> 5 === 1 && type ? `${type}, ${8 << (value & 3)} bits` : hexText(value);
    });
    const type = logicalTypes[(head >> 2) & 7];
    const wide = head & 3;
    if (head >> 5 !== 1 || !type || wide === 3) {
      parts.take(parts.left - end, 'path');
      return;
    }
    if (wide > 0) parts.take(1, 'pad byte');
    parts.number(wide === 0 ? 1 : wide === 1 ? 2 : 4, type, (value) => `${value} (${hexText(value)})`);
  }
}

/** setAttributeSingle → Set_Attribute_Single, sendRRData → SendRRData; codes that nobody knows stay codes. */
const nameOf = (known: Readonly<Record<string, number>>, value: number, between = '_'): string => {
  const name = Object.keys(known).find((key) => known[key] === value);
  const words = name?.replace(/([a-z])([A-Z])/g, `$1${between}$2`) ?? '';
  return name ? `${words[0]!.toUpperCase()}${words.slice(1)} (${hexText(value)})` : hexText(value);
};
/** From 16#32 on each class has services of its own (Vol. 1, 4-9.1). */
const firstOwnService = 0x32;
const serviceText = (code: number): string =>
  code < firstOwnService ? nameOf(services, code) : `a service of the object (${hexText(code)})`;
const statusOf = (status: number) =>
  status === 0 ? 'success' : `${hexText(status)} ${statusText(status, []).means}`;
