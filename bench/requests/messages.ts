/** The one question of each protocol and its answer, written out by hand, for those sides that know no protocol. */
export type Protocol = 'explicit' | 'modbus';

/** Where the server of a pair stands: each pair has addresses of its own. */
export const placeOf = (protocol: Protocol, pair: number) => ({
  address: `127.62.${pair}.2`,
  port: protocol === 'explicit' ? 44_818 : 502,
  device: protocol === 'explicit' ? 'climate_io_u1' : 'port_hub_g1',
  localAddress: `127.62.${pair}.1`,
});

const hex = (text: string) => Buffer.from(text.replace(/\s+/g, ''), 'hex');

/**
 * Get_Attribute_Single of the vendor number in SendRRData; ten input registers from 1000. `echo…`: bytes that come
 * back.
 */
export const answers = {
  explicit: {
    question: hex(`6f00 1800 01000000 00000000 0000000000000000 00000000
      00000000 0000 0200 0000 0000 b200 0800 0e03 2001 2401 3001`),
    answer: hex(`6f00 1600 01000000 00000000 0000000000000000 00000000
      00000000 0000 0200 0000 0000 b200 0600 8e00 0000 f5fd`),
    echoFrom: 12,
    echoTo: 20,
  },
  modbus: {
    question: hex('0000 0000 0006 ff 04 03e8 000a'),
    answer: hex(`0000 0000 0017 ff 04 14 ${'0000'.repeat(10)}`),
    echoFrom: 0,
    echoTo: 2,
  },
} as const;

/** What a session begins with, where there is one. */
export const openings = {
  explicit: hex('6500 0400 00000000 00000000 0000000000000000 00000000 0100 0000'),
  modbus: undefined,
} as const;
