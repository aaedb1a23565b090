import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { SafetyLogic } from './safetyLogic.js';
import { byteOf, feedbackOf, signalAt, type SafetyDevice } from './placement.js';

/**
 * What an approval is of: the network, its times, and where each status bit stands and is called in the image. SHA-256
 * (FIPS 180-4) of it, 64 hex digits; anything that would change its meaning gives another one.
 */
export function contentHash(device: SafetyDevice): string {
  const { blocks, status } = device.safety ?? { blocks: [], status: [] };
  const image = feedbackOf(device);
  const places = status.map((bit) => ({
    byte: image ? byteOf(bit, image) : undefined,
    signal: image && signalAt(bit, image)?.signal.name,
  }));
  const size = image?.size ?? 0;
  return bytesToHex(sha256(utf8ToBytes(JSON.stringify({ blocks, status, places, size }))));
}

/** Whether what was approved is still what is there. */
export const approvalStands = (device: SafetyDevice): boolean =>
  device.safety?.approval?.hash === contentHash(device);

/** The logic with its approval taken back where its content changed under the same approval. */
export function withoutStaleApproval(
  before: SafetyLogic | null,
  next: SafetyLogic | null,
): SafetyLogic | null {
  if (!before?.approval || !next?.approval) return next;
  const same = (part: 'blocks' | 'status' | 'approval') =>
    JSON.stringify(before[part]) === JSON.stringify(next[part]);
  const stale = same('approval') && !(same('blocks') && same('status'));
  return stale ? { ...next, approval: null } : next;
}
