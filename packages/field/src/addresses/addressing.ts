import {
  encapsulation as enip,
  startUp,
  type TcpIpChange,
  type TcpIpFacts,
} from '@fadenkreuz/core/ethernet-ip';
import type { Given } from '@fadenkreuz/core/bootp';

type NetworkFacts = Omit<TcpIpFacts, 'conflict'>;

/** What many devices leave the factory with; common practice, no source. */
const usualFactoryAddress = '192.168.1.1';
const classCMask = '255.255.255.0';

/** The address settings of a stand-in, as it keeps them without power: changes count from its next start. */
export class Addressing {
  private stored: NetworkFacts;
  /** What a server gave it since its last start. */
  private given: Given | undefined;

  /** `planned`: the address that it was set to by whoever built the bench. */
  constructor(
    private readonly planned: string,
    private readonly factory: string | null,
  ) {
    this.stored = factsWith(planned);
  }

  /** As the TCP/IP Interface object shows it. */
  get facts(): NetworkFacts {
    const { stored, given } = this;
    if (!given) return stored;
    const { address, mask, gateway } = given;
    return { ...stored, settings: { ...stored.settings, ...settingsOf(address, mask, gateway) } };
  }

  /** Where it stands after a start; undefined while it has no address. */
  get address(): string | undefined {
    return this.asks && !this.given ? undefined : enip.dottedAddress(this.facts.settings.address);
  }

  get asks(): 'bootp' | 'dhcp' | undefined {
    const { startUp: method } = this.stored;
    return method === startUp.bootp ? 'bootp' : method === startUp.dhcp ? 'dhcp' : undefined;
  }

  /** Whether it is set as whoever built the bench had it. */
  get asPlanned(): boolean {
    return !this.asks && this.address === this.planned;
  }

  change(part: TcpIpChange): void {
    // Who keeps the address that a server gave writes it down for good.
    if (part.startUp === startUp.stored && this.given) this.stored = { ...this.facts };
    this.stored = { ...this.stored, ...part };
    if (this.stored.startUp === startUp.stored) this.given = undefined;
  }

  give(given: Given): void {
    this.given = given;
  }

  /** What a start forgets. */
  start(): void {
    this.given = undefined;
  }

  toPlanned(): void {
    this.stored = factsWith(this.planned);
    this.given = undefined;
  }

  toFactory(address: string | null): void {
    this.stored = factsWith(address ?? this.factory ?? usualFactoryAddress);
    this.given = undefined;
  }

  askBy(method: 'bootp' | 'dhcp'): void {
    this.stored = { ...factsWith('0.0.0.0'), startUp: startUp[method] };
    this.given = undefined;
  }
}

const settingsOf = (address: string, mask: string, gateway: string | null) => ({
  address: enip.addressNumber(address),
  mask: enip.addressNumber(mask),
  gateway: gateway === null ? 0 : enip.addressNumber(gateway),
});

const factsWith = (address: string): NetworkFacts => ({
  settings: { ...settingsOf(address, classCMask, null), nameServer: 0, secondNameServer: 0, domain: '' },
  startUp: startUp.stored,
  hostName: '',
  inactivityTimeout: 120,
});

/** A locally administered MAC address of its own (IEEE 802: second bit of the first byte). */
export const macOf = (serial: number): Uint8Array =>
  Uint8Array.of(2, 0xfa, serial >>> 24, (serial >>> 16) & 0xff, (serial >>> 8) & 0xff, serial & 0xff);
