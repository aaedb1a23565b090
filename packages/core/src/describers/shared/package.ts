import { unzipSync } from 'fflate';
import { Problem } from '../../messages/problem.js';

export const packageLimits = { entries: 500, bytes: 40_000_000, ratio: 200 } as const;

/** Whether bytes begin as a zip file does. */
export const isPackage = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && (bytes[2] === 3 || bytes[2] === 5);

/**
 * The XML files of a zipped description, by their names. Sizes are looked at before anything is unpacked, and pictures
 * are left where they are. Throws `describer.tooLarge`, `package.path` for a name that leads elsewhere, and
 * `package.broken`.
 */
export function filesOf(bytes: Uint8Array): Map<string, Uint8Array> {
  let entries = 0;
  let unpacked = 0;
  const wanted = ({ name, originalSize, size }: { name: string; originalSize: number; size: number }) => {
    if ((entries += 1) > packageLimits.entries) throw tooLarge('entries', packageLimits.entries);
    if (/(^|[\\/])\.\.([\\/]|$)|^[\\/]|^[A-Za-z]:|\0/.test(name))
      throw new Problem('package.path', { name: name.slice(0, 80) });
    if (!/\.xml$/i.test(name)) return false;
    unpacked += originalSize;
    const puffed = originalSize > 1_000_000 && originalSize > size * packageLimits.ratio;
    if (puffed || unpacked > packageLimits.bytes) throw tooLarge('unpacked bytes', packageLimits.bytes);
    return true;
  };
  try {
    return new Map(Object.entries(unzipSync(bytes, { filter: wanted })));
  } catch (cause) {
    if (cause instanceof Problem) throw cause;
    throw new Problem('package.broken', { reason: (cause as Error).message }, { cause });
  }
}

const tooLarge = (what: string, limit: number) => new Problem('describer.tooLarge', { what, limit });
