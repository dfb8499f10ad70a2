import { execFileSync } from 'node:child_process';
import { createWriteStream } from 'node:fs';
import { mkdtemp, mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { commonFolders } from '@/core/archives/entries';
import { columnsAt } from '@/server/columns/read';
import { setGiven } from '@/server/columns/given';
import { setValues } from '@/server/columns/setValues';
import { docketOf } from '@/server/documents/docket';
import { exportPapers } from '@/server/exports/exportPapers';
import type { Actor } from '@/server/gate/actor';
import { createFolder } from '@/server/places/create';
import { outcomeOf } from '@/server/uploads/settle';
import { settleUploads } from '@/server/uploads/settleMany';
import { ownUpload, receive } from '@/server/uploads/receive';
import { startUpload } from '@/server/uploads/start';
import { unpackArchive, type UnpackedArchive } from '@/ui/uploads/unpackArchive';
import { dropLibrary, type furnished, newcomer, open } from '../library';
import { beginDescribing, define, revisionOf, statusList } from './describing';
import { bytesOf, filed } from './sending';

let keeper: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folder: string;
let columns: Readonly<Record<string, string>>;
let values: Record<string, string | number | boolean | string[]>;

beforeAll(async () => {
  ({ keeper, home } = await beginDescribing());
  folder = await mkdtemp(path.join(tmpdir(), 'embrin-round-'));
  const list = await statusList(['Draft', 'Final, signed', 'For; later']);
  const at = home.series.id;
  columns = {
    choice: await define('choice', at, { listId: list.id }),
    choices: await define('choices', at, { listId: list.id }),
    text: await define('text', at, { name: 'Kind' }),
    longText: await define('longText', at),
    number: await define('number', at, { unit: 'm', decimals: 2 }),
    amount: await define('amount', at, { currency: 'GBP' }),
    date: await define('date', at),
    yesNo: await define('yesNo', at),
    person: await define('person', at),
    dossier: await define('dossier', at),
  };
  const of = (type: string) => columns[type] ?? '';
  values = {
    [of('choice')]: list.term('Final, signed'),
    [of('choices')]: [list.term('Draft'), list.term('For; later')],
    [of('text')]: '=SUM(A1)',
    [of('longText')]: 'One line,\nand "another".',
    [of('number')]: -1234.5,
    [of('amount')]: 1_234_567.89,
    [of('date')]: '2026-03-29',
    [of('yesNo')]: false,
    [of('person')]: keeper.personId,
    [of('dossier')]: home.dossier.id,
  };
});
afterAll(async () => {
  await rm(folder, { recursive: true });
  await dropLibrary();
});

const nameOf = async (type: string): Promise<string> => {
  const { columns: all } = await columnsAt(keeper, { placeId: home.year.id });
  return all.find(({ id }) => id === columns[type])?.name ?? '';
};

async function unpacked(ids: readonly string[]): Promise<UnpackedArchive> {
  const file = path.join(folder, `${crypto.randomUUID()}.zip`);
  await pipeline((await exportPapers(keeper, ids)).begin(), createWriteStream(file));
  return unpackArchive(new Blob([await readFile(file)]));
}

/** Files what was in an archive as a browser does: sent one by one, and filed together. */
async function fileAll(actor: Actor, placeId: string, files: UnpackedArchive['files']) {
  const lead = commonFolders(files.map((each) => each.path));
  const sent: { id: string; cells: Readonly<Record<string, string>> }[] = [];
  for (const each of files) {
    const content = Buffer.from((await each.content?.arrayBuffer()) ?? new ArrayBuffer(0));
    const id = crypto.randomUUID();
    const steps = each.path.slice(lead === '' ? 0 : lead.length + 1).split('/');
    await startUpload(actor, id, content.length, {
      placeId,
      fileName: steps.pop() ?? '',
      relativePath: steps.join('/'),
      ...(each.title === null ? {} : { title: each.title }),
      onSameContent: 'file',
      filing: 'held',
    });
    await receive(await ownUpload(actor, id), 0, Readable.from([content]));
    sent.push({ id, cells: each.cells ?? {} });
  }
  const cells = Object.fromEntries(sent.map((each) => [each.id, each.cells]));
  const answers = await settleUploads(actor, { uploadIds: sent.map(({ id }) => id), cells });
  return answers.map(({ outcome }) => {
    if (outcome.state !== 'filed') throw new Error(JSON.stringify(outcome));
    return outcome;
  });
}

it('an export comes in again as it was: folders, titles, values of every type and every byte', async () => {
  const { id: below } = await createFolder(keeper, { parentId: home.year.id, name: 'Bids: 1/2' });
  const one = await filed(keeper, home.year.id, 'Minutes. Part 1?.txt', undefined, { title: 'Minutes: “part” 1?' });
  const two = await filed(keeper, below, 'plain.txt');
  await setValues(keeper, { documentIds: [one], values });
  const { files, sums } = await unpacked([one, two]);
  expect(sums).toBe(2);
  const { id: placeId } = await createFolder(keeper, { parentId: home.year.id, name: 'Come in again' });
  const outcomes = await fileAll(keeper, placeId, files);
  expect(outcomes.map(({ notSet }) => notSet)).toEqual([undefined, undefined]);
  for (const [was, at] of [one, two].map(
    (id) => [id, outcomes.find(({ title }) => title.startsWith(id === one ? 'Min' : 'plain'))] as const,
  )) {
    const [before, after] = [
      await docketOf(keeper, { documentId: was }),
      await docketOf(keeper, { documentId: at?.documentId ?? '' }),
    ];
    expect(after.title).toBe(before.title);
    expect(after.values).toEqual(before.values);
    expect(await bytesOf(keeper, after.id)).toEqual(await bytesOf(keeper, was));
  }
  // Settled again, nothing is set twice.
  const shown = await docketOf(keeper, { documentId: outcomes[0]?.documentId ?? '' });
  expect(shown.revision).toBeLessThanOrEqual(2);
});

it('files a paper whose values cannot all be taken over, and says which', async () => {
  const { id: placeId } = await createFolder(keeper, { parentId: home.year.id, name: 'Fixed' });
  const yes = { columnId: columns['yesNo'] ?? '', mode: 'fixed' as const, value: true, binding: null };
  await setGiven(keeper, { placeId, given: [yes], revision: await revisionOf(placeId) });
  const officer = await newcomer(keeper, 'Off Icer Two');
  await open(keeper, home.series.id, officer, 'officer');
  const content = new Blob(['some words']);
  const [outcome] = await fileAll(officer, placeId, [
    {
      path: 'a.txt',
      sizeBytes: 10,
      changedAt: 0,
      content,
      refused: null,
      title: null,
      cells: {
        'No such': 'x',
        [await nameOf('number')]: 'many',
        [await nameOf('yesNo')]: 'No',
        [await nameOf('date')]: '2026-05-01',
      },
    },
  ]);
  expect(outcome?.notSet).toEqual([
    expect.stringContaining('number'),
    expect.stringContaining('The place fixes it'),
    'No such: there is no such column where it was filed.',
  ]);
  const docket = await docketOf(keeper, { documentId: outcome?.documentId ?? '' });
  expect(docket.values[columns['date'] ?? '']).toBe('2026-05-01');
  expect(docket.values[columns['yesNo'] ?? '']).toBe(true);
});

it('gives no values in the name of someone who may add papers and not change them: alone or among others', async () => {
  const { id: placeId } = await createFolder(keeper, { parentId: home.year.id, name: 'Adding only' });
  const contributor = await newcomer(keeper, 'Con Tributor');
  await open(keeper, placeId, contributor, 'contributor');
  const cells = { [await nameOf('date')]: '2026-05-01' };
  const file = (name: string) => ({
    path: `${name}.txt`,
    sizeBytes: 10,
    changedAt: 0,
    content: new Blob([`words of ${name}`]),
    refused: null,
    title: null,
    cells,
  });
  for (const files of [[file('Alone')], [file('One'), file('Other')]])
    for (const { documentId, notSet } of await fileAll(contributor, placeId, files)) {
      expect(notSet).toEqual([expect.stringContaining('but not change it')]);
      expect((await docketOf(keeper, { documentId })).values).toEqual({});
    }
});

it('gives values with the answer to a question as well, and not to a paper that was there', async () => {
  const { id: placeId } = await createFolder(keeper, { parentId: home.year.id, name: 'Asked' });
  await filed(keeper, placeId, 'twice.txt');
  const cells = { [await nameOf('date')]: '2026-05-02' };
  const send = async () => {
    const id = crypto.randomUUID();
    const content = Buffer.from(`again ${id}`);
    await startUpload(keeper, id, content.length, { placeId, fileName: 'twice.txt', filing: 'held' });
    await receive(await ownUpload(keeper, id), 0, Readable.from([content]));
    expect(await settleUploads(keeper, { uploadIds: [id], cells: { [id]: cells } })).toMatchObject([
      { outcome: { state: 'same-name' } },
    ]);
    return id;
  };
  const both = await outcomeOf(keeper, await send(), { onSameName: 'both', cells });
  const version = await outcomeOf(keeper, await send(), { onSameName: 'version', cells });
  const dates = await Promise.all(
    [both, version].map(async (outcome) => {
      if (outcome.state !== 'filed') throw new Error(outcome.state);
      return (await docketOf(keeper, { documentId: outcome.documentId })).values[columns['date'] ?? ''];
    }),
  );
  expect(dates).toEqual(['2026-05-02', undefined]);
  expect([both, version].map((outcome) => ('notSet' in outcome ? outcome.notSet : null))).toEqual([
    null,
    ['The paper was there, and keeps the values that it has.'],
  ]);
});

it('unpacks what zip, bsdtar and 7-Zip make, and they test what the library makes', async () => {
  const from = path.join(folder, 'from');
  await mkdir(path.join(from, 'Agendas'), { recursive: true });
  await writeFile(path.join(from, 'Agendas', 'Größe.txt'), 'x'.repeat(100_000));
  const run = (command: string, ...args: string[]) => execFileSync(command, args, { encoding: 'utf8', cwd: from });
  run('bsdtar', '--format', 'zip', '-cf', '../bsdtar.zip', 'Agendas');
  run('7zz', 'a', '-bd', '../7zip.zip', 'Agendas');
  run('7zz', 'a', '-bd', '-psecret', '../locked.zip', 'Agendas');
  run('python3', '-m', 'zipfile', '-c', '../python.zip', 'Agendas');
  const read = async (name: string) => (await unpackArchive(new Blob([await readFile(path.join(folder, name))]))).files;
  for (const name of ['bsdtar.zip', '7zip.zip', 'python.zip'])
    expect(await read(name)).toMatchObject([{ path: 'Agendas/Größe.txt', sizeBytes: 100_000, refused: null }]);
  expect(await read('locked.zip')).toMatchObject([{ content: null, refused: expect.stringContaining('password') }]);
  const id = await filed(keeper, home.year.id, 'Straße “1”.txt');
  const file = path.join(folder, 'ours.zip');
  await pipeline((await exportPapers(keeper, [id])).begin(), createWriteStream(file));
  expect(run('7zz', 't', file)).toContain('Everything is Ok');
  expect(run('bsdtar', '-tf', file)).toContain('Papers.csv');
});
