/** Links of the design. */
export interface LinksFacts {
  'block.pastImage': { block: string; image: string; endsAtByte: number; size: number };
  'block.pastTable': { block: string; device: string };
  'block.none': { device: string };
  'block.overlap': { first: string; second: string; image: string; byte: number };
  'block.readOnly': { block: string; device: string; table: string };
  'block.noSuchRegisters': { block: string; device: string; first: number; last: number; known: string };
  'link.lossContradicts': { device: string; planned: string; why: string; does: string };
  'protocol.unknown': { protocol: string; known: string };
  'link.otherProtocol': { device: string; planned: string; speaks: string };
  'link.notCyclic': { device: string };
  'link.formatDiffers': { device: string; command: string; feedback: string };
}
