import { getServices } from '$lib/server/services.js';

/**
 * Server-sent events of one cell: `cell` (its new version), `bench` (status, null while the agent is away), `database`
 * (whether it is there). `desk` names the browser: when it goes, the agent is told, for it may have armed.
 */
export const GET = ({ params, url }) => {
  const desk = url.searchParams.get('desk')?.slice(0, 80);
  const { agent, feed } = getServices();
  const ends: (() => void)[] = [];
  const encoder = new TextEncoder();
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const send = (event: string, data: unknown) =>
          controller.enqueue(encoder.encode(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`));
        ends.push(
          agent.listen(({ status }) => {
            // A browser that does not keep up gets the next state instead of a growing queue.
            if ((controller.desiredSize ?? 0) > 0) send('bench', status ?? null);
          }),
          feed.listen((news) => {
            if ('databaseThere' in news) send('database', news.databaseThere);
            else if (news.notice.cell === params.cell) send('cell', news.notice.version);
          }),
        );
      },
      cancel() {
        for (const end of ends) end();
        // An agent that is away has forgotten who armed.
        if (desk) agent.request('POST', '/gone', { holder: desk }).catch(() => undefined);
      },
    },
    new ByteLengthQueuingStrategy({ highWaterMark: 256 * 1024 }),
  );
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
  });
};
