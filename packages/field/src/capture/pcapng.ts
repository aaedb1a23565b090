/**
 * pcapng blocks (IETF draft-ietf-opsawg-pcapng): section header, one interface, enhanced packets with times in ns. The
 * link type is LINKTYPE_ETHERNET (1).
 */
const blockTypes = { section: 0x0a0d0d0a, interface: 1, enhancedPacket: 6 } as const;
const linkTypeEthernet = 1;
const maxPacket = 65_535;

/** Type, length, body padded to 32 bits, length again. */
function block(type: number, body: Buffer): Buffer {
  const length = 12 + Math.ceil(body.length / 4) * 4;
  const whole = Buffer.alloc(length);
  whole.writeUInt32LE(type, 0);
  whole.writeUInt32LE(length, 4);
  body.copy(whole, 8);
  whole.writeUInt32LE(length, length - 4);
  return whole;
}

function option(code: number, value: string | Buffer): Buffer {
  const text = Buffer.from(value);
  const whole = Buffer.alloc(4 + Math.ceil(text.length / 4) * 4);
  whole.writeUInt16LE(code, 0);
  whole.writeUInt16LE(text.length, 2);
  text.copy(whole, 4);
  return whole;
}

const endOfOptions = Buffer.alloc(4);
const comment = 1;
/** Option if_tsresol: negative power of ten; 9 means ns. */
const timeResolution = 9;

/** What stands at the head of the file: section header (who wrote it) and interface description (what was recorded). */
export function fileHead(application: string, interfaceName: string, remark: string): Buffer {
  const section = Buffer.alloc(16);
  section.writeUInt32LE(0x1a2b3c4d, 0);
  section.writeUInt16LE(1, 4);
  section.writeBigInt64LE(-1n, 8);
  const description = Buffer.alloc(8);
  description.writeUInt16LE(linkTypeEthernet, 0);
  description.writeUInt32LE(maxPacket, 4);
  const userApplication = 4;
  const name = 2;
  return Buffer.concat([
    block(
      blockTypes.section,
      Buffer.concat([section, option(comment, remark), option(userApplication, application), endOfOptions]),
    ),
    block(
      blockTypes.interface,
      Buffer.concat([
        description,
        option(name, interfaceName),
        option(timeResolution, Buffer.of(9)),
        endOfOptions,
      ]),
    ),
  ]);
}

/** One packet; `timeNs` counts from 1970. */
export function packetBlock(timeNs: bigint, packet: Buffer, remarks: readonly string[] = []): Buffer {
  const head = Buffer.alloc(20);
  head.writeUInt32LE(Number(timeNs >> 32n), 4);
  head.writeUInt32LE(Number(timeNs & 0xffff_ffffn), 8);
  head.writeUInt32LE(packet.length, 12);
  head.writeUInt32LE(packet.length, 16);
  const padding = Buffer.alloc((4 - (packet.length % 4)) % 4);
  const options = remarks.length ? [...remarks.map((r) => option(comment, r)), endOfOptions] : [];
  return block(blockTypes.enhancedPacket, Buffer.concat([head, packet, padding, ...options]));
}
