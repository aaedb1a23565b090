import type { Parameter } from './parameter.js';

/**
 * What labels of settings mean, by the words that makers use (common practice, no source): the same set of values
 * serves devices of all makers, whatever numbers they give their choices.
 */
const meanings = {
  network:
    /\b(network|net|netzwerk|field ?bus|feldbus|bus|ethernet|communication|comms?|plc|controller|remote)\b/i,
  stop: /\b(stop|fault|trip|drop|ramp|coast|off|zero|safe)\b/i,
  'carry on': /\b(ignore|none|no (re)?action|continue|hold|keep|last|carry on|warning)\b/i,
  'low end first': /\b(little|low(er)?|least|intel|swapped)\b/i,
  'high end first': /\b(big|high(er)?|most|motorola|normal)\b/i,
  fixed: /\b(fixed|static|manual|stored|none|off|user)\b/i,
  asks: /\b(dhcp|bootp|server|automatic)\b/i,
  'IO-Link': /io-?link/i,
  on: /^(on|enabled?|yes|active)\b/i,
} as const;
export type Meaning = keyof typeof meanings;

type Labelled = Pick<Parameter, 'labels'>;

/**
 * The raw number whose label has a meaning; undefined where none has it, or several have. Of several ways to stop, the
 * first is taken: makers list the gentle ones before the others.
 */
export function numberMeaning({ labels }: Labelled, meaning: Meaning): number | undefined {
  const fitting = labels.filter(({ text }) => meanings[meaning].test(text));
  return fitting.length === 1 || meaning === 'stop' ? fitting[0]?.value : undefined;
}

/** Whether a label has a meaning. */
export const means = (label: string, meaning: Meaning): boolean => meanings[meaning].test(label);

/**
 * The label of what a parameter is planned to be, else of what it leaves the factory with; undefined where nothing is
 * known, or where it has no labels.
 */
export function expectedLabel({
  labels,
  planned,
  initial,
}: Labelled & Pick<Parameter, 'planned' | 'initial'>): string | undefined {
  const typed = planned ?? initial;
  if (typed === null) return undefined;
  const folded = typed.toLowerCase();
  return labels.find(({ value, text }) => text.toLowerCase() === folded || String(value) === typed)?.text;
}
