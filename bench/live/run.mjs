// What a browser that watches one device is told of a running bench, and what agent and web server take for some of
// them. Start Fadenkreuz with `./start --reset-demo` first. It needs nothing of this repository's code, so that an
// older commit can be measured with it as well.
//
// URL is the address that the start has printed.
//
//   node bench/live/run.mjs [URL] [BROWSERS] [SECONDS]
import { readdirSync, readFileSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';

const [printed = 'http://127.0.0.1:8470', browsers = '5', seconds = '20'] = process.argv.slice(2);
const { origin: url, searchParams } = new URL(printed);
const headers = {
  ...{ 'content-type': 'application/json', origin: url },
  authorization: `Bearer ${searchParams.get('token')}`,
};

const asked = async (path, options = {}) => {
  const response = await fetch(url + path, {
    ...options,
    headers,
  });
  return response.json();
};
const [{ id: cell }] = await asked('/api/cells');
await asked('/api/bench', { method: 'POST', body: JSON.stringify({ cell }) });
await sleep(4000);

/** CPU seconds of a process so far. */
function cpu(pid) {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8')
    .replace(/^.*\) /, '')
    .split(' ');
  return (Number(fields[11]) + Number(fields[12])) / 100;
}
/** The processes whose command line holds a text. */
const named = (text) =>
  readdirSync('/proc').filter((pid) => {
    try {
      return /^\d+$/.test(pid) && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(text);
    } catch {
      return false;
    }
  });
const parts = { agent: named('field/dist/agent'), web: named('web/build') };

let bytes = 0;
const ends = [];
const { cell: stored } = await asked(`/api/cells/${cell}`);
const watched = stored.devices[0].links[0].id;
async function browser() {
  const desk = crypto.randomUUID();
  const abort = new AbortController();
  ends.push(() => abort.abort());
  const { body } = await fetch(`${url}/api/cells/${cell}/events?desk=${desk}`, {
    headers,
    signal: abort.signal,
  });
  await asked('/api/live', { method: 'POST', body: JSON.stringify({ desk, links: [watched] }) }).catch(
    () => undefined,
  );
  (async () => {
    for await (const part of body) bytes += part.length;
  })().catch(() => undefined);
}
const measure = async (title, count) => {
  const before = Object.values(parts).map((pids) => pids.reduce((sum, pid) => sum + cpu(pid), 0));
  bytes = 0;
  await sleep(Number(seconds) * 1000);
  const after = Object.values(parts).map((pids) => pids.reduce((sum, pid) => sum + cpu(pid), 0));
  const share = (i) => `${(((after[i] - before[i]) / Number(seconds)) * 100).toFixed(1)} %`;
  const each = count ? `, ${Math.round(bytes / count / Number(seconds))} bytes a second to each` : '';
  console.log(`${title}: agent ${share(0)}, web ${share(1)} of a core${each}`);
};
await measure('no browser', 0);
for (let n = 0; n < Number(browsers); n += 1) await browser();
await sleep(2000);
await measure(`${browsers} browsers, one device watched`, Number(browsers));
ends.forEach((end) => end());
await asked('/api/bench', { method: 'DELETE' });
process.exit(0);
