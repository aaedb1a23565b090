/**
 * Bytes on the wire of Ethernet (IEEE 802.3-2018, 3.1 and 4.4.2, from memory): preamble and start delimiter 8, addresses and type 14, at
 * least 46 bytes of payload, check sequence 4, and a gap of 12 byte times after each frame.
 */
const ethernet = { preamble: 8, header: 14, leastPayload: 46, checkSequence: 4, gap: 12 } as const;
/** Header of IPv4 without options (RFC 791) and of UDP (RFC 768). */
const udpHeaders = 20 + 8;

/** Bytes of a frame as a capture shows it, without preamble, check sequence and gap; short payloads are not padded in it. */
export const capturedBytes = (udpPayload: number): number => ethernet.header + udpHeaders + udpPayload;

/** Byte times that a datagram takes of a port, gap and all. */
export const wireBytes = (udpPayload: number): number =>
  ethernet.preamble +
  ethernet.header +
  Math.max(ethernet.leastPayload, udpHeaders + udpPayload) +
  ethernet.checkSequence +
  ethernet.gap;

/** The share of a port that so many datagrams a second take; the port's rate in Mbit/s. */
export const portShare = (udpPayload: number, perSecond: number, mbits: number): number =>
  (wireBytes(udpPayload) * 8 * perSecond) / (mbits * 1e6);
