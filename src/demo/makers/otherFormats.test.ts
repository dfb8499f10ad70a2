import { chmod, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { inFormat } from './otherFormats';
import type { Draft } from './paper';

/** Has a script stand in for the office program. Returns how often it was called, once all is done. */
async function withOffice(script: string, act: () => Promise<void>): Promise<number> {
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-office-'));
  const before = process.env['PATH'];
  try {
    const program = path.join(folder, 'soffice');
    await writeFile(program, `#!/bin/sh\nprintf x >> ${folder}/calls\n${script.replaceAll('FOLDER', folder)}\n`);
    await chmod(program, 0o755);
    process.env['PATH'] = `${folder}:${before}`;
    await act();
    return (await readFile(path.join(folder, 'calls'), 'utf8')).length;
  } finally {
    process.env['PATH'] = before;
    await rm(folder, { recursive: true, force: true });
  }
}

const make = () => inFormat(() => Promise.resolve(Buffer.from('A paper')), 'docx', 'doc')({} as Draft);

describe('a paper in an older format', () => {
  it('is made although the office program ends by itself once', async () => {
    // Its sixth word is the folder to which it writes.
    const calls = await withOffice(
      'if [ "$(cat FOLDER/calls)" = x ]; then exit 1; fi; printf made > "$6/from.doc"',
      async () => expect((await make()).toString()).toBe('made'),
    );
    expect(calls).toBe(2);
  });

  it('is given up where that happens each time, or nothing is written', async () => {
    expect(await withOffice('exit 1', () => expect(make()).rejects.toThrow())).toBe(3);
    expect(await withOffice('exit 0', () => expect(make()).rejects.toThrow(/no such file/u))).toBe(3);
  });
});
