import { LiveView, openView } from '../../../../../lib/server/liveView.js';
import { changesSince, type CellNotice } from '../../../../../lib/server/repository/changes.js';
import { getServices } from '../../../../../lib/server/services.js';

/** How often a browser hears that the server is there, ms. */
const hereMs = 1500;

/**
 * Server-sent events of one cell: `change` (an edit and the version that it made), `version` (the cell has moved on by
 * more than can be told: load it), `bench` (what has changed of its state; null while the agent is away), `database`
 * (whether it is there). `desk` names the browser: when it goes, the agent is told, for it may have armed.
 */
export const GET = ({ params, url }) => {
  const desk = url.searchParams.get('desk')?.slice(0, 80) || crypto.randomUUID();
  const { agent, feed, db } = getServices();
  const ends: (() => void)[] = [];
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const send = (event: string, data: unknown) =>
          controller.enqueue(encoder.encode(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`));
        const view = new LiveView((news) => {
          // A browser that does not keep up gets the next state instead of a growing queue.
          if ((controller.desiredSize ?? 0) <= 0) return false;
          send('bench', news);
          return true;
        });
        /** A change that did not fit its notice is looked up. */
        const tell = async ({ cell, version, change }: CellNotice) => {
          const found = change ?? (await changesSince(db, cell, version - 1).catch(() => undefined))?.[0];
          if (found?.version === version) send('change', found);
          else send('version', version);
        };
        // A server that stands still keeps its sockets open: silence alone tells that it does.
        const here = setInterval(() => send('here', 0), hereMs);
        ends.push(
          () => clearInterval(here),
          openView(desk, view),
          agent.listen((news) => view.hear(news)),
          feed.listen((news) => {
            if ('databaseThere' in news) send('database', news.databaseThere);
            else if (news.notice.cell === params.cell) void tell(news.notice).catch(() => undefined);
          }),
        );
      },
      cancel() {
        for (const end of ends) end();
        // An agent that is away has forgotten who armed.
        agent.request('POST', '/gone', { holder: desk }).catch(() => undefined);
      },
    },
    new ByteLengthQueuingStrategy({ highWaterMark: 256 * 1024 }),
  );
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
  });
};
