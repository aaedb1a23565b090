/** Edits of a cell. */
export interface EditsFacts {
  'parameter.notCyclic': { parameter: string; bytes: number };
  'snapshot.tooMany': { device: string; most: number };
  'edit.unknown': { what: string; id: string };
  'edit.idTaken': { id: string };
  'edit.fieldPastEnd': { field: string; endsAtBit: number; imageBits: number };
  'edit.conflict': { what: string; by: string };
  'edit.undoConflict': { title: string; by: string };
  'edit.ahead': { madeOn: number; now: number };
  'bench.otherVersion': { asked: number; has: number };
  'edit.nothingToUndo': Record<string, never>;
  'edit.nothingToRedo': Record<string, never>;
  'cell.tooLarge': { bytes: number; limit: number };
  'cell.unknown': { cell: string };
  'cell.deleted': { cell: string; on: string; days: number };
  'cell.onBench': { cell: string };
  'network.tooSmall': { subnet: string; address: string };
  'cell.noSuchVersion': { version: string; now: number };
}
