import { isIPv4 } from 'node:net';
import { StartError } from './places.js';

/** Length of the prefix of the widest subnet that is reached without a second word. */
const widest = 16;

export interface Options {
  resetDemo: boolean;
  /** For working on it: the web application from its sources with hot reload, the agent anew with each change. */
  dev: boolean;
  /** Subnets of real devices that the agent may send to. */
  reach: string[];
}

/**
 * Reads `--reset-demo`, `--dev`, and `--reach SUBNET`, which may be given again; a subnet of more than 65,536 addresses
 * needs `--wide` as well. Throws StartError for anything else.
 */
export function optionsFrom(args: readonly string[]): Options {
  const options: Options = { resetDemo: false, dev: false, reach: [] };
  let wide = false;
  const left = [...args];
  for (let next = left.shift(); next !== undefined; next = left.shift()) {
    if (next === '--reset-demo') options.resetDemo = true;
    else if (next === '--dev') options.dev = true;
    else if (next === '--reach') options.reach.push(subnetFrom(left.shift()));
    else if (next === '--wide') wide = true;
    else
      throw new StartError(
        `${next} is not known`,
        'the options are --reset-demo, --dev, --reach SUBNET and --wide',
      );
  }
  const tooWide = options.reach.find((subnet) => Number(subnet.split('/')[1]) < widest);
  if (tooWide !== undefined && !wide)
    throw new StartError(
      `${tooWide} are more than ${2 ** (32 - widest)} addresses, most of them not of this machine`,
      `name the machine's own subnet, or add --wide to mean it`,
    );
  return options;
}

function subnetFrom(text: string | undefined): string {
  const [address = '', prefix = ''] = (text ?? '').split('/');
  if (isIPv4(address) && /^\d{1,2}$/.test(prefix) && Number(prefix) <= 32) return text!;
  throw new StartError(`${text ?? 'nothing'} is no IPv4 subnet`, 'write it like --reach 192.168.40.0/24');
}
