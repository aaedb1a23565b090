import type { Cell, Device } from '../cell/model.js';
import { identifierOf } from '../entries/identifiers.js';
import { approvalStands } from '../safety/approval.js';
import { blockKindOf, wiresOf } from '../safety/blocks.js';
import { meaningOf, statusMeaning } from '../safety/meaning.js';
import { feedbackOf, signalAt } from '../safety/placement.js';
import { table } from './markdown.js';
import { statusOnly } from './safetyNotes.js';

/** What the safety controllers of a cell do, what their status bits mean, for the papers of its machine; Markdown. */

const withLogic = (cell: Cell) => cell.devices.filter((d) => d.safety !== null);

function sheet(device: Device): string {
  const logic = device.safety!;
  const image = feedbackOf(device);
  const nameOf = (id: string) => logic.blocks.find((b) => b.id === id)?.name ?? '?';
  const approval = approvalStands(device) ? logic.approval : null;
  const settings = (block: object) =>
    Object.entries(block)
      .filter(([key]) => !['id', 'name', 'is', 'in'].includes(key))
      .map(([key, value]) => `${key} ${String(value)}`)
      .join(', ');
  return [
    `## ${device.name}${device.serves ? `: ${device.serves}` : ''}`,
    `**${statusOnly}.**`,
    approval ? `Approved by ${approval.by} at ${approval.at}; SHA-256 ${approval.hash}.` : 'Not approved.',
    '### Network',
    table(
      ['block', 'is', 'reads', 'settings', '1 when'],
      logic.blocks.map((block) => [
        block.name,
        blockKindOf(block).title,
        wiresOf(block)
          .map(({ from, not }) => `${not ? 'not ' : ''}${nameOf(from)}`)
          .join(', '),
        settings(block),
        meaningOf(logic, block.id),
      ]),
    ),
    '### Status bits',
    table(
      ['signal', 'block', 'offset', 'bit', '1 when'],
      logic.status.map((status) => [
        (image && signalAt(status, image)?.signal.name) ?? '',
        status.block,
        String(status.offset),
        String(status.bit),
        statusMeaning(logic, status),
      ]),
    ),
  ].join('\n\n');
}

/** Empty where no device has a safety logic. */
export function safetySheets(cell: Cell): string {
  const devices = withLogic(cell);
  if (devices.length === 0) return '';
  return [`# Safety logic of ${cell.name}`, ...devices.map(sheet)].join('\n\n') + '\n';
}

export const safetySheetsFile = (cell: Cell): string => `${identifierOf(cell.name)}_safety.md`;
