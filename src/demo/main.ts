/**
 * Builds the demo library in the database at DATABASE_URL.
 *   --only-if-empty    does nothing where a library has been founded
 *   --sign-ins FILE    writes the demo's sign-ins there, for the start command to print
 */
import { writeFile } from 'node:fs/promises';
import { disconnect } from '@/server/db/client';
import { stopTally } from '@/server/tally/host';
import { stopQueue } from '@/server/jobs/queue';
import { isFounded } from '@/server/library/found';
import { buildDemo } from './build';
import { inPlaceOf } from './inPlaceOf';
import { colleagues, demoPassword, keeper } from './people';

const words = process.argv.slice(2);
const signIns = words[words.indexOf('--sign-ins') + 1];

async function build(address: string): Promise<void> {
  // Read by the connections when they are first used.
  process.env['DATABASE_URL'] = address;
  const began = Date.now();
  const say = (line: string) =>
    console.log(`        ${((Date.now() - began) / 1000).toFixed(0).padStart(3)}s  ${line}`);
  console.log('  Building the demo library');
  const { papers } = await buildDemo(say);
  say(`The demo library is built: ${papers} papers`);
  // Before the library is there: else a start that is ended in between would never tell them.
  if (words.includes('--sign-ins') && signIns) {
    const lines = [keeper, ...colleagues].map(({ email, name, role }) => `    ${email.padEnd(28)}${name}, ${role}`);
    await writeFile(signIns, `  Sign in as (password for all: ${demoPassword})\n${lines.join('\n')}\n\n`);
  }
  await letGo();
}

async function letGo(): Promise<void> {
  await stopTally();
  await stopQueue();
  await disconnect();
}

const isThere = words.includes('--only-if-empty') && (await isFounded());
await letGo();
if (!isThere) {
  const address = process.env['DATABASE_URL'] ?? '';
  // What else is in a database of somebody’s own is not ours to replace.
  await (process.env['EMBRIN_OWN_DATABASE'] === 'yes' ? inPlaceOf(address, build) : build(address));
}
