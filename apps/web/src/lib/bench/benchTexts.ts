import type { LinkStatus } from '@fadenkreuz/field/agent-api';

/** A time since something in as few characters as tell it: 12 ms, 3.4 s, 2 min. */
export function ageText(ms: number | null): string {
  if (ms === null) return '–';
  if (ms < 1000) return `${Math.round(ms)} ms`;
  return ms < 100_000 ? `${(ms / 1000).toFixed(1)} s` : `${Math.round(ms / 60_000)} min`;
}

/** Time of day with ms, as the trace shows it. */
export const clockText = (at: number): string => {
  const time = new Date(at);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${two(time.getHours())}:${two(time.getMinutes())}:${two(time.getSeconds())}.${String(time.getMilliseconds()).padStart(3, '0')}`;
};

/** What the outputs of a simulated device are, and since when. */
export function outputsText({
  outputs,
  since,
}: Pick<NonNullable<LinkStatus['side']>, 'outputs' | 'since'>): string {
  const at = clockText(since).slice(0, 8);
  return {
    none: 'Nobody has commanded its outputs yet.',
    commanded: `A controller commands its outputs since ${at}.`,
    held: `No controller since ${at}: it holds its outputs as they were.`,
    dropped: `No controller since ${at}: it dropped its outputs.`,
  }[outputs];
}
