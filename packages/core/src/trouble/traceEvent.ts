/** One line of the trace of a bench. */
export type TraceEvent =
  | { what: 'state'; from: string; to: string; reason: string | null }
  | { what: 'injected'; fault: string }
  | { what: 'cleared'; fault: string }
  | { what: 'light'; light: string; shows: string }
  | { what: 'written'; field: string; value: string }
  | { what: 'armed'; seconds: number }
  | { what: 'disarmed'; why: string }
  | { what: 'rested' }
  | { what: 'addressed'; at: string; address: string }
  | { what: 'parameters'; does: 'read' | 'write'; good: number; total: number }
  | { what: 'run'; run: boolean }
  | { what: 'moved'; kind: string; reason: string; wireMs: number }
  | { what: 'exchange'; name: string; state: string; run: number; reason: string }
  | { what: 'overwritten'; field: string };

/** The event as a sentence; the device stands before it. */
export function traceText(event: TraceEvent): string {
  switch (event.what) {
    case 'state':
      return `link ${event.from} → ${event.to}${event.reason ? `: ${event.reason}` : ''}`;
    case 'injected':
      return `fault injected: ${event.fault}`;
    case 'cleared':
      return `fault taken away: ${event.fault}`;
    case 'light':
      return `${event.light} light: ${event.shows}`;
    case 'written':
      return `${event.field} := ${event.value}`;
    case 'armed':
      return `armed for ${event.seconds} s`;
    case 'disarmed':
      return `disarmed: ${event.why}`;
    case 'rested':
      return 'all commands to rest';
    case 'addressed':
      return `the device at ${event.at} was given the address ${event.address}`;
    case 'parameters':
      return `${event.good} of ${event.total} parameters ${event.does === 'read' ? 'read' : 'written'}`;
    case 'exchange':
      return `exchange ${event.name}: ${event.state}${event.run > 1 ? ` in run ${event.run}` : ''}${event.reason ? `: ${event.reason}` : ''}`;
    case 'moved':
      return `moved by hand (${event.kind}), at rest: ${event.reason}; the command to rest was sent after ${event.wireMs} ms`;
    case 'overwritten':
      return `${event.field} was written twice within one update: the device has not seen the first value`;
    case 'run':
      return event.run ? 'controller runs' : 'controller idles';
  }
}
