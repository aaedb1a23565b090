/** How often the clock looks, ms. */
const lookMs = 20;
/** So much may pass between two looks and still count in full, ms; of a longer gap only this much. */
const countedMs = 50;

let lookedAt = NaN;
let missed = 0;

const beyond = (gap: number): number => (gap > countedMs ? gap - countedMs : 0);

/** The clock looks from the first time that somebody asks for it. */
function beginToLook(): void {
  lookedAt = performance.now();
  setInterval(() => {
    const now = performance.now();
    missed += beyond(now - lookedAt);
    lookedAt = now;
  }, lookMs).unref();
}

/**
 * Time in which this process could attend to its sockets, ms; `now` is `performance.now()`. A computer that halts the
 * whole process for a second finds the packets of that second in its buffers afterwards: the silence was its own, and
 * no device is blamed for it.
 */
export function attended(now = performance.now()): number {
  if (Number.isNaN(lookedAt)) beginToLook();
  return now - missed - beyond(now - lookedAt);
}
