/** A part of the application, as whoever watches over it sees it. */
export interface Watched {
  name: string;
  /** Whether it says anything at all in time; what it says does not matter. */
  answers: () => Promise<boolean>;
  /** The process that it is now; undefined while there is none. */
  process: () => number | undefined;
  /** Ends it, whatever state it is in; whoever keeps it starts it again. */
  end: () => void;
  say: (line: string) => void;
}

const pauseMs = 1000;
/** A part of a busy computer may miss an answer; one that misses so many one after the other stands still. */
const missesAllowed = 3;
/** One that has just been started has said nothing yet: a busy computer takes its time over that. */
const missesAtStart = 30;

/**
 * Ends a part that stands still: a process that was stopped, or never comes out of a loop, keeps its sockets open and
 * is not missed otherwise. Returns the way to end the watch.
 */
export function watchOver({ name, answers, process, end, say }: Watched): () => void {
  let misses = 0;
  let known: number | undefined;
  let heard = false;
  let over = false;
  let timer: NodeJS.Timeout;
  const look = async (): Promise<void> => {
    const well = await answers().catch(() => false);
    if (over) return;
    const now = process();
    if (now !== known) {
      known = now;
      heard = false;
      misses = 0;
    }
    heard ||= well;
    misses = well || now === undefined ? 0 : misses + 1;
    if (misses > (heard ? missesAllowed : missesAtStart)) {
      say(`${name} stands still; it is ended and started again.`);
      misses = 0;
      end();
    }
    timer = setTimeout(() => void look(), pauseMs);
  };
  timer = setTimeout(() => void look(), pauseMs);
  return () => {
    over = true;
    clearTimeout(timer);
  };
}

/** How long a part may take to answer, ms. */
const answerWithinMs = 1500;

/** Whether a server gives any answer over HTTP. */
export const answersHttp =
  (url: string, headers: Record<string, string> = {}) =>
  (): Promise<boolean> =>
    fetch(url, { headers, signal: AbortSignal.timeout(answerWithinMs) }).then(async (answer) => {
      await answer.body?.cancel();
      return true;
    });
