import type { EditsFacts } from '../facts/edits.js';
import type { Texts } from '../wording.js';

/** Edits of a cell. */
export const editsTexts: Texts<EditsFacts> = {
  'parameter.notCyclic': (f) => ({
    says: `${f.parameter} cannot be carried there: it has no number to choose it by, is longer than ${f.bytes} bytes, or goes the other way.`,
    cure: 'Choose another parameter for this place.',
  }),
  'snapshot.tooMany': (f) => ({
    says: `${f.device} has ${f.most} snapshots already.`,
    cure: 'Delete one that is not needed any more.',
  }),
  'edit.unknown': (f) => ({
    says: `There is no ${f.what} with the id ${f.id} in this cell.`,
    cure: 'Somebody may have removed it; look at the present state.',
  }),
  'edit.idTaken': (f) => ({ says: `The id ${f.id} is used already.`, cure: 'Add it under a new id.' }),
  'edit.fieldPastEnd': (f) => ({
    says: `${f.field} would end at bit ${f.endsAtBit}, but the image ends at bit ${f.imageBits}.`,
    cure: 'Place it further up, make it shorter, or make the image larger first.',
  }),
  'edit.conflict': (f) => ({
    says: `Not stored: somebody else changed ${f.what} meanwhile (${f.by}).`,
    cure: 'Look at what stands there now; your entry is kept here, and can be made again.',
  }),
  'edit.undoConflict': (f) => ({
    says: `"${f.title}" cannot be taken back: somebody else has changed the same since (${f.by}).`,
    cure: 'Change it by hand to what it should be.',
  }),
  'edit.ahead': (f) => ({
    says: `The edit was made on version ${f.madeOn}, but the cell is at ${f.now}.`,
    cure: 'Load the page again.',
  }),
  'bench.otherVersion': (f) => ({
    says: `The bench runs version ${f.has}, not ${f.asked}.`,
    cure: 'Send it the whole cell.',
  }),
  'edit.nothingToUndo': () => ({
    says: 'There is nothing to undo in this cell.',
    cure: 'Every edit is undone already.',
  }),
  'edit.nothingToRedo': () => ({
    says: 'There is nothing to redo in this cell.',
    cure: 'Redo follows an undo directly; a new edit ends it.',
  }),
  'cell.tooLarge': (f) => ({
    says: `The devices would make ${f.bytes} bytes of the cell's file; ${f.limit} can be read again.`,
    cure: 'Divide the cell, or shorten labels and notes.',
  }),
  'cell.unknown': (f) => ({
    says: `There is no cell ${f.cell}.`,
    cure: 'Choose one from the list of cells.',
  }),
  'cell.deleted': (f) => ({
    says: `The cell ${f.cell} was deleted on ${f.on}.`,
    cure: `Restore it in the list of cells; it is kept there for ${f.days} days.`,
  }),
  'cell.onBench': (f) => ({
    says: `The cell ${f.cell} runs on the bench.`,
    cure: 'Stop the bench, then delete it.',
  }),
  'network.tooSmall': (f) => ({
    says: `The subnet ${f.subnet} has no place for ${f.address}.`,
    cure: 'Take a larger subnet, or move that address first.',
  }),
  'cell.noSuchVersion': (f) => ({
    says: `There is no version ${f.version} of this cell.`,
    cure: `Its versions are 1 to ${f.now}.`,
  }),
};
