import type { SafetyFacts } from '../facts/safety.js';
import type { Texts } from '../wording.js';

export const safetyTexts: Texts<SafetyFacts> = {
  'safety.circle': (f) => ({
    says: `${f.device}: ${f.blocks} read each other in a circle, and show nothing.`,
    cure: 'Take one of the wires away.',
  }),
  'safety.wireMissing': (f) => ({
    says: `${f.device}: ${f.block} has nothing at “${f.wire}”.`,
    cure: 'Choose the block that it reads.',
  }),
  'safety.bitOutside': (f) => ({
    says: `${f.device}: the status bit at ${f.place} does not lie in its feedback image.`,
    cure: 'Enter block, offset and bit as in the manual of the safety controller.',
  }),
  'safety.bitTwice': (f) => ({
    says: `${f.device}: two status bits stand at ${f.place}.`,
    cure: 'Give one of them another place.',
  }),
  'safety.notApproved': (f) => ({
    says: `${f.device}: nobody has approved what its status bits mean.`,
    cure: 'Compare the network with the safety controller’s own, then approve it, under Safety.',
  }),
  'safety.approvalWithdrawn': (f) => ({
    says: `${f.device}: what ${f.by} approved on ${f.at} has changed since: the approval is withdrawn.`,
    cure: 'Compare the network again, and approve it, under Safety.',
  }),
};
