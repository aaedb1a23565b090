import type { Behaviour } from '@fadenkreuz/core/behaviours';
import { driveObjects, generalStatus, parameterObject, type CipClass } from '@fadenkreuz/core/cip';

/** The state of a behaviour, which its objects read and change. */
export interface StateOf<S> {
  get: () => S;
  set: (state: S) => void;
}

/** The CIP objects that a kind of device has beside those of every target: its parameters, and those of a drive. */
export function ownObjects<S>({ parameters, drive }: Behaviour<S>, state: StateOf<S>): CipClass[] {
  const classes: CipClass[] = [];
  if (parameters)
    classes.push(
      parameterObject(
        parameters,
        (number) => parameters.find((p) => p.number === number)!.get(state.get()),
        (number, raw) => {
          const next = parameters.find((p) => p.number === number)!.set?.(state.get(), raw);
          if (typeof next === 'number') return next;
          if (next === undefined) return generalStatus.attributeNotSettable;
          state.set(next);
          return generalStatus.success;
        },
      ),
    );
  if (drive)
    classes.push(
      ...driveObjects(
        () => drive.facts(state.get()),
        (part) => state.set(drive.change(state.get(), part)),
      ),
    );
  return classes;
}
