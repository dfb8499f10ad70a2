import { mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { makers } from '@/demo/papers';
import { Prose } from '@/demo/prose';
import { Chance } from '@/core/chance/chance';

/** Makes real files of the named kinds (`Agenda.docx`) in a folder of their own; returns their paths by name. */
export async function realFiles(names: readonly string[]): Promise<Map<string, string>> {
  const folder = await mkdtemp(path.join(tmpdir(), 'embrin-papers-'));
  const prose = new Prose(new Chance(42));
  const made = new Map<string, string>();
  for (const name of names) {
    const ending = name.slice(name.lastIndexOf('.') + 1);
    const title = name.slice(0, -(ending.length + 1));
    const maker = makers[ending];
    if (!maker) throw new Error(`Nobody makes .${ending}`);
    const content = await maker({
      title,
      subtitle: 'Finance & audit',
      written: new Date('2026-07-14T00:00:00Z'),
      author: 'Kea Keeper',
      paragraphs: prose.paragraphs(3, 6),
      figures: prose.figures(5),
    });
    made.set(name, await writeTo(folder, name, content));
  }
  return made;
}

/** Writes one more file beside others. */
export async function writeTo(folder: string, name: string, content: Buffer): Promise<string> {
  const file = path.join(folder, name);
  await writeFile(file, content);
  return file;
}
