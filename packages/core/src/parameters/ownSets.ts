import type { Device } from '../cell/model.js';
import type { ParameterSet } from '../cell/parameterSet.js';
import type { Parameter } from '../devices/parameter.js';
import { ParameterCodec } from '../devices/parameterCodec.js';
import { hexOf } from '../bytes/hexBytes.js';
import { Problem } from '../messages/problem.js';
import type { WriteStep } from './writePlan.js';

/** Sets of a person's own, as text and as writes to a device. */

type Step = ParameterSet['steps'][number];

/** One step a line, `code or name = value`; an empty line and what stands behind `//` is no step. */
export const setText = ({ steps }: Pick<ParameterSet, 'steps'>): string =>
  steps.map(({ parameter, to }) => `${parameter} = ${to}`).join('\n');

/** Throws `sets.line` for a line that is no step. */
export function readSetText(text: string): Step[] {
  return text.split('\n').flatMap((line, i): Step[] => {
    const said = line.replace(/\/\/.*$/, '').trim();
    if (said === '') return [];
    const at = said.lastIndexOf('=');
    const [parameter, to] = [said.slice(0, at).trim(), said.slice(at + 1).trim()];
    if (at < 1 || parameter === '' || to === '') throw new Problem('sets.line', { line: i + 1, text: said });
    return [{ parameter, to }];
  });
}

const folded = (text: string) => text.trim().toLowerCase();
function parameterOf(parameters: readonly Parameter[], said: string): Parameter | undefined {
  return (
    parameters.find(({ code }) => code !== '' && folded(code) === folded(said)) ??
    parameters.find(({ name }) => folded(name) === folded(said))
  );
}

/** A step at a device: its parameter, and what is typed for it; a label became its number. */
export interface PlacedStep {
  parameter: Parameter;
  to: string;
}
export interface PlacedSet {
  set: ParameterSet;
  steps: PlacedStep[];
  /** A parameter comes more than once: it can be written in its order, not planned. */
  sequence: boolean;
}

/** The set at a device; undefined where the device lacks a parameter of it, or cannot be written one. */
export function placedSet(
  set: ParameterSet,
  { description }: Pick<Device, 'description'>,
): PlacedSet | undefined {
  const steps: PlacedStep[] = [];
  for (const { parameter: said, to } of set.steps) {
    const parameter = parameterOf(description.parameters, said);
    if (!parameter || parameter.access === 'read') return undefined;
    const label = parameter.labels.find(({ text }) => folded(text) === folded(to));
    steps.push({ parameter, to: label ? String(label.value) : to });
  }
  return { set, steps, sequence: new Set(steps.map((s) => s.parameter.id)).size < steps.length };
}

/** The writes of a set, in its order. Throws `value.…` for what a parameter cannot hold; nothing is written then. */
export const setWrites = ({ steps }: PlacedSet): WriteStep[] =>
  steps.map(({ parameter, to }) => ({
    parameter: parameter.id,
    bytes: hexOf(new ParameterCodec(parameter).written(to)),
    why: 'value',
  }));
