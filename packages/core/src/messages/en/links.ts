import type { LinksFacts } from '../facts/links.js';
import type { Texts } from '../wording.js';

/** Links of the design. */
export const linksTexts: Texts<LinksFacts> = {
  'block.pastImage': (f) => ({
    says: `The block ${f.block} ends in byte ${f.endsAtByte}, but ${f.image} has only ${f.size} bytes.`,
    cure: 'Make the image larger, or the block shorter.',
  }),
  'block.pastTable': (f) => ({
    says: `The block ${f.block} of ${f.device} goes past address 65535.`,
    cure: 'Compare first register and count with the manual.',
  }),
  'block.none': (f) => ({
    says: `No register of ${f.device} is read or written: its link has no blocks.`,
    cure: 'Add a block for each run of registers, in the device’s lens on the line-up.',
  }),
  'block.overlap': (f) => ({
    says: `The blocks ${f.first} and ${f.second} both use byte ${f.byte} of ${f.image}.`,
    cure: 'Let the second one begin behind the first.',
  }),
  'block.readOnly': (f) => ({
    says: `The block ${f.block} is to be written, but the table ${f.table} of ${f.device} can only be read.`,
    cure: 'Write to holding registers or coils.',
  }),
  'block.noSuchRegisters': (f) => ({
    says: `The block ${f.block} asks ${f.device} for ${f.first} to ${f.last}, which it does not have as a whole.`,
    cure: `It has ${f.known}; addresses count from 0, reference 400001 is address 0.`,
  }),
  'link.lossContradicts': (f) => ({
    says: `The plan says that ${f.device} will ${f.planned} its outputs on loss, but it will ${f.does} them: ${f.why}.`,
    cure: 'Correct the plan, or ask the device in another way.',
  }),
  'protocol.unknown': (f) => ({
    says: `There is no protocol ${f.protocol}.`,
    cure: `Choose one of ${f.known}.`,
  }),
  'link.otherProtocol': (f) => ({
    says: `${f.device} is planned with ${f.planned}, but speaks ${f.speaks}.`,
    cure: 'Choose its protocol, or another stand-in.',
  }),
  'link.notCyclic': (f) => ({
    says: `${f.device} offers explicit messages only; it has no cyclic connections.`,
    cure: 'Ask for its assemblies at a poll time.',
  }),
  'link.formatDiffers': (f) => ({
    says: `${f.device} takes commands in the format ${f.command} and sends feedback in the format ${f.feedback}; the plan says otherwise.`,
    cure: 'Take the formats of the device: else all bytes lie four places off.',
  }),
};
