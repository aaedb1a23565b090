/** IPv4, UDP and TCP headers around what a socket sent or received (RFC 791, 768, 9293). */

export interface Endpoint {
  address: string;
  port: number;
}

const protocolNumbers = { udp: 17, tcp: 6 } as const;
export const tcpFlags = { fin: 0x01, syn: 0x02, push: 0x08, ack: 0x10 } as const;

/** Internet checksum, RFC 1071. */
function checksum(bytes: Buffer): number {
  let sum = 0;
  for (let i = 0; i < bytes.length; i += 2) sum += (bytes[i]! << 8) | (bytes[i + 1] ?? 0);
  while (sum > 0xffff) sum = (sum & 0xffff) + (sum >>> 16);
  return ~sum & 0xffff;
}

const addressBytes = (address: string) => Buffer.from(address.split('.').map(Number));

function ipv4(
  from: Endpoint,
  to: Endpoint,
  protocol: number,
  identification: number,
  payload: Buffer,
): Buffer {
  const head = Buffer.alloc(20);
  head[0] = 0x45;
  head.writeUInt16BE(20 + payload.length, 2);
  head.writeUInt16BE(identification & 0xffff, 4);
  head.writeUInt16BE(0x4000, 6);
  head[8] = 64;
  head[9] = protocol;
  addressBytes(from.address).copy(head, 12);
  addressBytes(to.address).copy(head, 16);
  head.writeUInt16BE(checksum(head), 10);
  return Buffer.concat([head, payload]);
}

/** Pseudo header for the checksums of UDP and TCP (RFC 768). */
function pseudoHeader(from: Endpoint, to: Endpoint, protocol: number, length: number): Buffer {
  const tail = Buffer.alloc(4);
  tail[1] = protocol;
  tail.writeUInt16BE(length, 2);
  return Buffer.concat([addressBytes(from.address), addressBytes(to.address), tail]);
}

export function udpPacket(from: Endpoint, to: Endpoint, identification: number, data: Buffer): Buffer {
  const head = Buffer.alloc(8);
  head.writeUInt16BE(from.port, 0);
  head.writeUInt16BE(to.port, 2);
  head.writeUInt16BE(8 + data.length, 4);
  const datagram = Buffer.concat([head, data]);
  const sum = checksum(
    Buffer.concat([pseudoHeader(from, to, protocolNumbers.udp, datagram.length), datagram]),
  );
  datagram.writeUInt16BE(sum || 0xffff, 6);
  return ipv4(from, to, protocolNumbers.udp, identification, datagram);
}

export interface TcpPart {
  sequence: number;
  acknowledged: number;
  flags: number;
}

export function tcpPacket(
  from: Endpoint,
  to: Endpoint,
  identification: number,
  part: TcpPart,
  data: Buffer,
): Buffer {
  const head = Buffer.alloc(20);
  head.writeUInt16BE(from.port, 0);
  head.writeUInt16BE(to.port, 2);
  head.writeUInt32BE(part.sequence >>> 0, 4);
  head.writeUInt32BE(part.acknowledged >>> 0, 8);
  head[12] = 5 << 4;
  head[13] = part.flags;
  head.writeUInt16BE(0xffff, 14);
  const segment = Buffer.concat([head, data]);
  segment.writeUInt16BE(
    checksum(Buffer.concat([pseudoHeader(from, to, protocolNumbers.tcp, segment.length), segment])),
    16,
  );
  return ipv4(from, to, protocolNumbers.tcp, identification, segment);
}

/** Bytes that an Ethernet frame has at least, without its check sequence (IEEE 802.3, 3.2.7). */
const leastFrame = 60;
const etherTypeIpv4 = 0x0800;

/** A locally administered MAC address made from an IPv4 address; groups have theirs by RFC 1112, 6.4. */
function macOf(address: Buffer): Buffer {
  if ((address[0]! & 0xf0) === 0xe0)
    return Buffer.of(0x01, 0x00, 0x5e, address[1]! & 0x7f, address[2]!, address[3]!);
  return Buffer.of(0x02, 0xfa, ...address);
}

/** An Ethernet frame around an IPv4 packet; short ones are padded as a sender would. */
export function ethernetFrame(packet: Buffer): Buffer {
  const head = Buffer.alloc(14);
  macOf(packet.subarray(16, 20)).copy(head, 0);
  macOf(packet.subarray(12, 16)).copy(head, 6);
  head.writeUInt16BE(etherTypeIpv4, 12);
  const frame = Buffer.concat([head, packet]);
  return frame.length >= leastFrame ? frame : Buffer.concat([frame, Buffer.alloc(leastFrame - frame.length)]);
}
