import type { ExchangesFacts } from '../facts/exchanges.js';
import type { Texts } from '../wording.js';

const at = (f: { exchange: string; step: string }) => `${f.exchange}, step “${f.step}”`;

/** Exchanges. */
export const exchangesTexts: Texts<ExchangesFacts> = {
  'exchange.noPlace': (f) => ({
    says: `${at(f)}: there is no ${f.place}.`,
    cure: 'Give the field its role in the Sight, or choose another one in the step.',
  }),
  'exchange.noSteps': (f) => ({
    says: `${f.exchange} has no steps.`,
    cure: 'Add a step, or make it from the roles of a device.',
  }),
  'exchange.variableUnknown': (f) => ({
    says: `${at(f)}: there is no variable ${f.variable}.`,
    cure: 'Add the variable to the exchange, or enter a value.',
  }),
  'exchange.targetUnknown': (f) => ({
    says: `${at(f)} goes on at a step that is not there.`,
    cure: 'Choose the step at which it goes on.',
  }),
  'exchange.neverReached': (f) => ({
    says: `${at(f)} is never reached.`,
    cure: 'Let a branch or the step before lead to it, or remove it.',
  }),
  'exchange.noLimit': (f) => ({
    says: `${at(f)} waits without a limit: if the device does not answer, it waits for ever.`,
    cure: 'Enter how long it may take, and the reason when it takes longer.',
  }),
  'exchange.deadEnd': (f) => ({
    says: `${f.exchange} goes round for ever in ${f.steps}.`,
    cure: 'Give one of the steps a branch that leads out, or a number of rounds.',
  }),
  'exchange.neverReleased': (f) => ({
    says: `${at(f)} sets ${f.place}, which acts by its edge, and no step after it takes it back: it acts once and never again.`,
    cure: 'Take it back in a later step, or give it as a pulse.',
  }),
  'exchange.pulseTooShort': (f) => ({
    says: `${at(f)} gives ${f.place} as a pulse that may be shorter than two updates of ${f.updateMs} ms: the device may never see it.`,
    cure: 'Let the step last at least 2 update times, or wait for the acknowledge of the device.',
  }),
  'exchange.noEdge': (f) => ({
    says: `${at(f)} sets ${f.place}, which acts by its edge and stands there already: no edge comes.`,
    cure: 'Take it back in a step before.',
  }),
  'exchange.codeRepeated': (f) => ({
    says: `${at(f)} writes ${f.place} without a 0 between: the device obeys only a code that comes from 0.`,
    cure: 'Write 0 in a step before that lasts at least 2 update times.',
  }),
  'exchange.commandsFeedback': (f) => ({
    says: `${at(f)} sets ${f.place}, which the device shows and nobody can set.`,
    cure: 'Choose a field of the command image.',
  }),
  'exchange.neverSent': (f) => ({
    says: `${at(f)} waits for what ${f.place} never is: ${f.why}.`,
    cure: 'Wait for a value that the field can have.',
  }),
  'exchange.limitTooShort': (f) => ({
    says: `${at(f)} may take ${f.limitMs} ms, and an answer needs two updates, ${f.leastMs} ms.`,
    cure: `Enter more than ${f.leastMs} ms.`,
  }),
  'exchange.alreadyRuns': (f) => ({
    says: `${f.exchange} runs already.`,
    cure: 'Wait for its end, or stop it.',
  }),
  'exchange.unknown': (f) => ({
    says: `There is no exchange ${f.exchange}.`,
    cure: f.known === '' ? 'Add one to the cell.' : `There are: ${f.known}.`,
  }),
};
