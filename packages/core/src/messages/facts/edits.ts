/** Edits of a cell. */
export interface EditsFacts {
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
  'cell.noSuchVersion': { version: string; now: number };
}
