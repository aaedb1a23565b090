import { answer } from '../../../../lib/server/answer.js';
import { getServices } from '../../../../lib/server/services.js';

/** Records the traffic of the bench from now on. */
export const POST = () => answer(() => getServices().agent.request('POST', '/capture'));

/** Ends the recording, which is kept. */
export const DELETE = () => answer(() => getServices().agent.request('DELETE', '/capture'));

/** The recording as a pcapng file. */
export const GET = () =>
  answer(async () => {
    const file = await getServices().agent.capture();
    // The page that asks for it names the file.
    return new Response(file, {
      headers: { 'content-type': 'application/octet-stream', 'content-disposition': 'attachment' },
    });
  });
