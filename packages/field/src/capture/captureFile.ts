import { createWriteStream, type WriteStream } from 'node:fs';
import { finished } from 'node:stream/promises';
import { PacketTap } from './tap.js';

/** Writes a capture file while it records. */
export class CaptureFile extends PacketTap {
  private readonly file: WriteStream;
  private failure: Error | undefined;

  constructor(path: string) {
    super();
    this.file = createWriteStream(path);
    this.file.on('error', (error) => (this.failure = error));
    this.file.write(PacketTap.head);
  }

  protected keep(block: Buffer): void {
    // A connection may close after the recording has ended: its last packet comes too late.
    if (!this.file.writableEnded) this.file.write(block);
  }

  /** Writes what is left; throws the error of the file, if it had one. */
  async close(): Promise<void> {
    if (this.failure) throw this.failure;
    this.file.end();
    await finished(this.file);
  }
}
