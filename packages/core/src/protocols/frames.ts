/**
 * Bytes on the wire of Ethernet (IEEE 802.3-2018, 3.1 and 4.4.2, from memory): preamble and start delimiter 8,
 * addresses and type 14, at least 46 bytes of payload, check sequence 4, and a gap of 12 byte times after each frame.
 */
const ethernet = { preamble: 8, header: 14, leastPayload: 46, checkSequence: 4, gap: 12 } as const;
/**
 * Headers of IPv4 without options (RFC 791), and of UDP (RFC 768) or of TCP without options (RFC 9293) behind it; none
 * for what lies on Ethernet itself.
 */
const headers = { udp: 20 + 8, tcp: 20 + 20, ethernet: 0 } as const;
export type Transport = keyof typeof headers;

/**
 * Bytes of a frame as a capture shows it, without preamble, check sequence and gap; short payloads are not padded in
 * it.
 */
export const capturedBytes = (payload: number, transport: Transport = 'udp'): number =>
  ethernet.header + headers[transport] + payload;

/** Byte times that a packet with so much payload takes of a port, gap and all. */
export const wireBytes = (payload: number, transport: Transport = 'udp'): number =>
  ethernet.preamble +
  ethernet.header +
  Math.max(ethernet.leastPayload, headers[transport] + payload) +
  ethernet.checkSequence +
  ethernet.gap;

/** The share of a port that so many bytes on the wire take in a second; the port's rate in Mbit/s. */
export const portShare = (wireBytesPerSecond: number, mbits: number): number =>
  (wireBytesPerSecond * 8) / (mbits * 1e6);
