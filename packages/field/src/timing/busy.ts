import { performance } from 'node:perf_hooks';

/** From this share of its time a process counts as busy, and below the other as at ease again. */
const shares = { busy: 0.6, atEase: 0.4 } as const;
/** So many looks in a row must say so: a moment's work does not make a process busy, nor one moment's rest the opposite. */
const looks = { busy: 2, atEase: 20 } as const;

/** The share of the time since the last call in which the event loop was not waiting. */
function loopShare(): () => number {
  let last = performance.eventLoopUtilization();
  return () => {
    const now = performance.eventLoopUtilization();
    const { utilization } = performance.eventLoopUtilization(now, last);
    last = now;
    return utilization;
  };
}

/** Tells whether this process has little time to spare; slow to change its mind. */
export class Busy {
  private busy = false;
  private against = 0;

  /** `share`: of the time since it was last asked, 0 to 1. */
  constructor(private readonly share: () => number = loopShare()) {}

  /** To be asked at even distances. */
  look(): boolean {
    const share = this.share();
    const differs = this.busy ? share < shares.atEase : share > shares.busy;
    this.against = differs ? this.against + 1 : 0;
    if (this.against < (this.busy ? looks.atEase : looks.busy)) return this.busy;
    this.against = 0;
    this.busy = !this.busy;
    return this.busy;
  }
}
