import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import type { Maker } from './paper';

/** A maker's paper as the office program writes it in another format: older ones, which nothing else here writes. */
export const inFormat =
  (maker: Maker, made: string, ending: string): Maker =>
  async (draft) => {
    const folder = await mkdtemp(path.join(tmpdir(), 'embrin-demo-'));
    try {
      const from = path.join(folder, `from.${made}`);
      await writeFile(from, await maker(draft));
      const profile = `-env:UserInstallation=file://${folder}/profile`;
      const words = ['--headless', profile, '--convert-to', ending, '--outdir', folder, from];
      await promisify(execFile)('soffice', words, { timeout: 60_000 });
      return await readFile(path.join(folder, `from.${ending}`));
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  };
