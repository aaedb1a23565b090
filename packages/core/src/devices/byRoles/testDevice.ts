import type { Role } from '../../layout/role.js';
import { Commands, noDesign, type Design } from './commands.js';
import type { RoleBehaviour } from './roleBehaviour.js';
import { RoleImage, type Shown } from './roleImage.js';
import type { Laid } from './testLayouts.js';

/** For tests: a device on two images, driven step by step; its images are there to be looked at. */
export function driven<S>(
  kind: RoleBehaviour<S>,
  laid: Laid,
  met: Record<string, number> = {},
  design: Design = noDesign,
) {
  const command = new RoleImage(laid.command);
  const feedback = new RoleImage(laid.feedback);
  const commands = new Commands(command, {
    met: (quantity) => met[quantity],
    set: () => undefined,
    shown: (role) => feedback.numbers(role),
    holds: () => false,
    design: () => design,
  });
  let state = kind.start();
  const shown = (role: Role, n = 1) =>
    feedback.text(role) ?? feedback.bit(role, n) ?? feedback.number(role, n);
  const one = {
    /** What happens in the device itself. */
    get state() {
      return state;
    },
    /** Sets commands, lets some time pass in steps of 20 ms, and gives what it shows then. */
    after(ms: number, told: Partial<Record<Role, Shown>> = {}, commanded = true) {
      command.show({ ...atRest, ...told });
      Object.assign(atRest, told);
      for (let passed = 0; passed < ms; passed += 20) {
        state = kind.step(state, commands.next(20, commanded));
        feedback.show(kind.shows(state, feedback));
      }
      feedback.read();
      return shown;
    },
    /** A command that is given and taken back. */
    pulse(role: Role) {
      one.after(40, { [role]: true });
      return one.after(40, { [role]: false });
    },
    inject: (id: string) => (state = kind.faults.find((f) => f.id === id)!.inject(state)),
    clear: (id: string) => (state = kind.faults.find((f) => f.id === id)!.clear(state)),
    met,
    command,
    feedback,
  };
  // Bits that are normally closed begin at rest, not at 0.
  const atRest: Partial<Record<Role, Shown>> = Object.fromEntries(
    command.roles.filter((role) => command.bit(role) !== undefined).map((role) => [role, false]),
  );
  return one;
}
