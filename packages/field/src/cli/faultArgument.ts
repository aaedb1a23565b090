import { InvalidArgumentError } from 'commander';
import { faultChoices, Fault, Problem, type Cell, type Device } from '@fadenkreuz/core';

/** A fault that the command line injects at a time, and takes away at another. */
export interface PlannedFault {
  device: string;
  /** A kind of fault, or one of the device's own. */
  kind: string;
  settings: Record<string, string>;
  /** s after the start; undefined: it stays. */
  from: number;
  to: number | undefined;
}

/** Reads DEVICE:FAULT[,key=value…][@FROM[-TO]], such as brush_belt_m1:packets-lost,share=0.3@2-5. */
export function plannedFault(text: string, before: PlannedFault[] = []): PlannedFault[] {
  const match =
    /^([^:@,]+):([a-z-]+)((?:,[a-zA-Z]+=[^,@]+)*)(?:@(\d+(?:\.\d+)?)(?:-(\d+(?:\.\d+)?))?)?$/.exec(text);
  if (!match) throw new InvalidArgumentError('Write it like brush_belt_m1:packets-lost,share=0.3@2-5.');
  const [, device, kind, settings = '', from = '0', to] = match;
  const entries = settings
    .split(',')
    .filter(Boolean)
    .map((part) => part.split('=') as [string, string]);
  return [
    ...before,
    {
      device: device!,
      kind: kind!,
      settings: Object.fromEntries(entries),
      from: Number(from),
      to: to === undefined ? undefined : Number(to),
    },
  ];
}

/** The fault and the device that it names. Throws `edit.unknown`, `fault.notHere`, `input.invalid`. */
export function faultOf(
  cell: Cell,
  { device: name, kind, settings }: PlannedFault,
): { device: Device; fault: Fault } {
  const device = cell.devices.find((d) => d.name === name);
  if (!device) throw new Problem('edit.unknown', { what: 'device', id: name });
  const choice = faultChoices(device).find(({ fault }) =>
    fault.fault === 'device' ? fault.id === kind : fault.fault === kind,
  );
  if (!choice) throw new Problem('fault.notHere', { fault: kind, device: name });
  const typed = Object.entries(settings).map(([key, value]) => {
    const number = Number(value);
    return [key, Number.isNaN(number) ? value : number];
  });
  const parsed = Fault.safeParse({ ...choice.fault, ...Object.fromEntries(typed) });
  if (!parsed.success) {
    const { path, message } = parsed.error.issues[0]!;
    throw new Problem('input.invalid', { where: `fault ${kind}, ${path.join('.')}`, reason: message });
  }
  return { device, fault: parsed.data };
}
