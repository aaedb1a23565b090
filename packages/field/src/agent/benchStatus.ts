import type { LinkReport } from '../bench/report.js';
import type { ExchangeStatus } from '../controller/exchangeDesk.js';
import type { ManualStatus } from '../controller/manualDesk.js';
import type { CutSeries } from '../parameters/writeJournal.js';
import type { RecordingState } from '../capture/recording.js';

/**
 * The bench as it stands now; listeners hear what has changed of it (live.ts), `statusPerSecond` times a second at
 * most.
 */
export interface BenchStatus {
  bench: { cell: string; version: number; run: boolean } | null;
  /** ms that writing stays allowed; 0 when disarmed. */
  armedForMs: number;
  /** Who holds the permission; empty when disarmed. */
  armedBy: string;
  links: LinkReport[];
  /** What the lines of the machine gave last, by their ids; those that gave nothing are left out. */
  machine: Record<string, number>;
  /** Exchanges that run, or ran, since the bench was started. */
  exchanges: ExchangeStatus[];
  /** What is moved by hand, and was last. */
  manual: ManualStatus[];
  /** Number of the last line of the trace. */
  lastTrace: number;
  /** The last recording of its traffic; null before the first. */
  recording: RecordingState | null;
  /** Series of writes that ended with an agent before this one. */
  cutWrites: CutSeries[];
}
