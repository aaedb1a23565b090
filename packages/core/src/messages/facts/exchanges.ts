/** Exchanges: what keeps one from being run, and what their check finds. */
export interface ExchangesFacts {
  'exchange.noPlace': { exchange: string; step: string; place: string };
  'exchange.noSteps': { exchange: string };
  'exchange.variableUnknown': { exchange: string; step: string; variable: string };
  'exchange.targetUnknown': { exchange: string; step: string };
  'exchange.neverReached': { exchange: string; step: string };
  'exchange.noLimit': { exchange: string; step: string };
  'exchange.deadEnd': { exchange: string; steps: string };
  'exchange.neverReleased': { exchange: string; step: string; place: string };
  'exchange.pulseTooShort': { exchange: string; step: string; place: string; updateMs: number };
  'exchange.noEdge': { exchange: string; step: string; place: string };
  'exchange.codeRepeated': { exchange: string; step: string; place: string };
  'exchange.commandsFeedback': { exchange: string; step: string; place: string };
  'exchange.neverSent': { exchange: string; step: string; place: string; why: string };
  'exchange.limitTooShort': { exchange: string; step: string; limitMs: number; leastMs: number };
  'exchange.alreadyRuns': { exchange: string };
  'exchange.unknown': { exchange: string; known: string };
}
