/** The thread of a web process that keeps the tally: reads the library, says so, then answers one question after another. */
import { parentPort } from 'node:worker_threads';
import { config } from '@/server/base/config';
import { logFault } from '@/server/log/fault';
import { FollowedTally } from '@/server/tally/followed';
import type { TallyRequest, TallyMessage } from '@/server/tally/host';

const port = parentPort;
if (!port) throw new Error('The tally runs as a thread of the web process');
const tally = new FollowedTally(config().DATABASE_URL);
const tell = (told: TallyMessage) => port.postMessage(told);
const retryMs = 1000;
/** So often the changes are looked at, also where nobody asks: well within the time after which they are swept. */
const keepUpMs = 5 * 60_000;

port.on('message', (asked: TallyRequest) => {
  tally.ask(asked.kind, asked.question, asked.who).then(
    (answer) => tell({ number: asked.number, answer }),
    (error: unknown) => {
      logFault(error, { where: `tally ${asked.kind}` });
      tell({ number: asked.number, failed: 'The tally could not answer' });
    },
  );
});

function read(): void {
  tally.load().then(
    () => tell({ read: true }),
    // The database may be away for a while: it is tried again until it is there.
    () => setTimeout(read, retryMs),
  );
}
read();
setInterval(() => {
  tally.keepUp().catch((error: unknown) => logFault(error, { where: 'tally keeping up' }));
}, keepUpMs);
