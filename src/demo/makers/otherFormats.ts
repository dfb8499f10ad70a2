import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import type { Maker } from './paper';

/** The office program sometimes ends by itself without having done anything, and on a busy machine it is slow. */
const mostTries = 3;
const longestMs = 300_000;

/** A maker's paper as the office program writes it in another format: older ones, which nothing else here writes. */
export const inFormat =
  (maker: Maker, made: string, ending: string): Maker =>
  async (draft) => {
    const paper = await maker(draft);
    for (let tried = 1; ; tried += 1)
      try {
        return await converted(paper, made, ending);
      } catch (error) {
        if (tried === mostTries) throw error;
      }
  };

async function converted(paper: Buffer, made: string, ending: string): Promise<Buffer> {
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-demo-'));
  try {
    const from = path.join(folder, `from.${made}`);
    await writeFile(from, paper);
    const profile = `-env:UserInstallation=file://${folder}/profile`;
    const words = ['--headless', profile, '--convert-to', ending, '--outdir', folder, from];
    await promisify(execFile)('soffice', words, { timeout: longestMs, env: process.env });
    return await readFile(path.join(folder, `from.${ending}`));
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
