import { choiceNumber, type ChosenSlots } from '../chosenSlots.js';
import type { ConnectionPoint } from '../description.js';
import type { DescribedParameter } from './parameters.js';

/** Of a stand-in: carries the parameters that were chosen in its cyclic images. */
export class ChosenValues {
  private readonly byCode: ReadonlyMap<string, DescribedParameter>;
  private readonly byNumber: readonly ReadonlyMap<number, DescribedParameter>[];

  constructor(
    private readonly slots: readonly ChosenSlots[],
    parameters: readonly DescribedParameter[],
  ) {
    this.byCode = new Map(parameters.map((one) => [one.parameter.code, one]));
    this.byNumber = slots.map(
      (of) =>
        new Map(
          parameters.flatMap((one): [number, DescribedParameter][] => {
            const number = choiceNumber(of, one.parameter);
            return number === undefined ? [] : [[number, one]];
          }),
        ),
    );
  }

  /** Puts what was chosen into a feedback image; a place for which nothing is chosen is 0. */
  show({ number, use }: Pick<ConnectionPoint, 'number' | 'use'>, into: Uint8Array): void {
    this.each(number, use, 'feedback', (one, at, size) => {
      into.fill(0, at, at + size);
      if (one && at + one.bytes.length <= into.length) into.set(one.bytes, at);
    });
  }

  /** Takes what was chosen out of a command image; what a parameter refuses leaves it as it was. */
  take(point: number, bytes: Uint8Array): void {
    this.each(point, 'command', 'command', (one, at) => {
      if (!one || at + one.bytes.length > bytes.length) return;
      const value = bytes.subarray(at, at + one.bytes.length);
      if (one.bytes.some((byte, i) => byte !== value[i])) one.write(value);
    });
  }

  private each(
    point: number,
    use: ConnectionPoint['use'],
    side: ChosenSlots['use'],
    visit: (one: DescribedParameter | undefined, at: number, size: number) => void,
  ): void {
    this.slots.forEach((of, s) => {
      if (of.use !== side || use !== side || of.point !== point) return;
      of.selectors.forEach((code, i) => {
        const number = this.byCode.get(code)?.raw ?? 0;
        visit(this.byNumber[s]!.get(number), of.at + i * of.size, of.size);
      });
    });
  }
}
