import { meiIdentification } from '@fadenkreuz/core/modbus-tcp';
import pLimit from 'p-limit';
import { ModbusClient } from './client.js';
import type { Reach } from '../../wire/reach.js';

/** What a Modbus server says of itself (Application Protocol V1.1b3, 6.21); empty where it says nothing. */
export interface ModbusIdentity {
  at: string;
  port: number;
  maker: string;
  productCode: string;
  revision: string;
  productName: string;
}

export interface ModbusQuestion {
  addresses: readonly string[];
  ports: readonly number[];
  reach: Reach;
  onAnswer: (answer: ModbusIdentity) => void;
  onAsked: (count: number) => void;
  signal: AbortSignal;
}

/** Connections that are tried at the same time, and how long each may take, ms. */
const atOnce = 48;
const limitMs = 700;
const regular = 2;

/**
 * Knocks at the Modbus ports of addresses and asks who is there; one that answers no such question is reported without
 * a name.
 */
export async function askModbusIdentities(asked: ModbusQuestion): Promise<void> {
  const { addresses, ports, onAsked, onAnswer, signal } = asked;
  const limit = pLimit(atOnce);
  await Promise.all(
    addresses.map((address) =>
      limit(async () => {
        if (signal.aborted) return;
        for (const port of ports) {
          const answer = await identityAt(address, port, asked.reach);
          if (answer) onAnswer(answer);
        }
        onAsked(1);
      }),
    ),
  );
}

async function identityAt(at: string, port: number, reach: Reach): Promise<ModbusIdentity | undefined> {
  reach.require(at);
  const client = await ModbusClient.open({ address: at, port, reach, answerLimitMs: limitMs }).catch(
    () => undefined,
  );
  if (!client) return undefined;
  try {
    const ask = { mei: meiIdentification, category: regular, object: 0 };
    const { objects } = await client.ask(255, 'readIdentification', ask);
    const text = (id: number) => objects.find((o) => o.id === id)?.text ?? '';
    return { at, port, maker: text(0), productCode: text(1), revision: text(2), productName: text(4) };
  } catch {
    // Many servers know no identification: that one stands there is all that they say.
    return { at, port, maker: '', productCode: '', revision: '', productName: '' };
  } finally {
    await client.close();
  }
}
