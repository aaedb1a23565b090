import type { ExchangeValue, ExchangeVariable } from '@fadenkreuz/core';

/** A value as it is typed: 1 and 0 for a bit, a number, a text, or the name of a variable with something added. */
export function valueTyped(
  typed: string,
  reads: 'bit' | 'number' | 'text',
  variables: readonly Pick<ExchangeVariable, 'name'>[],
): ExchangeValue | undefined {
  const text = typed.trim();
  const [, name, sign, plus] = /^(.+?)(?:\s*([+-])\s*(\d+(?:\.\d+)?))?$/.exec(text) ?? [];
  const variable = variables.find((v) => v.name === text) ?? variables.find((v) => v.name === name);
  if (variable)
    return {
      variable: variable.name,
      plus: variable.name === text || plus === undefined ? 0 : Number(`${sign}${plus}`),
    };
  if (reads === 'text') return typed;
  if (reads === 'bit') return text === '1' ? true : text === '0' ? false : undefined;
  return text === '' || Number.isNaN(Number(text)) ? undefined : Number(text);
}

/** The value as it would be typed. */
export function valueText(value: ExchangeValue): string {
  if (typeof value === 'boolean') return value ? '1' : '0';
  if (typeof value !== 'object') return String(value);
  if (value.plus === 0) return value.variable;
  return `${value.variable} ${value.plus < 0 ? '-' : '+'} ${Math.abs(value.plus)}`;
}
