import { writeCellFile } from '../cell/cellFile.js';
import type { Cell } from '../cell/model.js';
import { identifierOf } from '../entries/identifiers.js';
import { driveSheets, driveSheetsFile } from './driveSheets.js';
import { exchangeManual, exchangeManualFile } from './exchangeManual.js';
import { safetySheets, safetySheetsFile } from './safetySheets.js';
import { signalList, signalListFile } from './signalList.js';
import { exchangeCode, exchangeCodeFile } from './structuredText/exchangeCode.js';
import { parameterCode, parameterCodeFile } from './structuredText/parameterCode.js';
import { structuredText, structuredTextFile } from './structuredText/structuredText.js';

/** A file that leaves with the machine. */
export interface Paper {
  id: string;
  file: (cell: Cell) => string;
  type: string;
  /** What it is, for a person. */
  says: string;
  /** Whether the cell has something of it; without, it always leaves. */
  has?: (cell: Cell) => boolean;
  write: (cell: Cell) => string;
}

const text = 'text/plain; charset=utf-8';
const markdown = 'text/markdown; charset=utf-8';

const hasExchanges = ({ exchanges }: Cell): boolean => exchanges.length > 0;

/** All that leaves, in the order in which it is shown. */
export const papers: readonly Paper[] = [
  {
    ...{ id: 'code', type: text, file: structuredTextFile, write: structuredText },
    says: 'One STRUCT an image, and the functions that pack and unpack it. IEC 61131-3.',
  },
  {
    ...{ id: 'parameters', type: text, file: parameterCodeFile, write: parameterCode },
    says: 'A block for each device that writes its planned parameters one at a time and reads them back. The message call of the controller at hand is filled in at one place.',
  },
  {
    ...{ id: 'exchanges', type: text, file: exchangeCodeFile, write: exchangeCode, has: hasExchanges },
    says: 'A function block for each exchange: state, busy, done, error, the failed step, its limits as inputs.',
  },
  {
    ...{ id: 'manual', type: markdown, file: exchangeManualFile, write: exchangeManual },
    has: hasExchanges,
    says: 'The exchanges in words, for the manual of the machine.',
  },
  {
    ...{ id: 'drives', type: markdown, file: driveSheetsFile, write: driveSheets },
    has: ({ devices }) => devices.some((d) => d.train !== null),
    says: 'The drive trains: motors, gears, loads, moves, what follows from them, and the parameters of the drives.',
  },
  {
    ...{ id: 'safety', type: markdown, file: safetySheetsFile, write: safetySheets },
    has: ({ devices }) => devices.some((d) => d.safety !== null),
    says: 'What the safety controllers do, what each status bit means, who approved it. Status only.',
  },
  {
    ...{ id: 'signals', type: 'text/csv; charset=utf-8', file: signalListFile, write: signalList },
    says: 'Every signal with both sides’ addresses, for a spreadsheet.',
  },
  {
    ...{ id: 'cell', type: 'application/json', write: writeCellFile },
    file: (cell) => `${identifierOf(cell.name)}.cell.json`,
    says: 'The whole cell as JSON; Fadenkreuz takes it in again.',
  },
];
