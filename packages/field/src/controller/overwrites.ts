/** One write of a person into a command image. */
interface Write {
  field: string;
  name: string;
  value: string;
  /** Packets that had left when it was written. */
  sent: number;
}

/** Says when a write took the place of another one that no packet has carried: the device never saw the first. */
export class Overwrites {
  private readonly last = new Map<string, Write>();

  constructor(private readonly tell: (device: string, field: string) => void) {}

  note(device: string, write: Write): void {
    const before = this.last.get(write.field);
    this.last.set(write.field, write);
    if (before?.sent === write.sent && before.value !== write.value) this.tell(device, write.name);
  }
}
