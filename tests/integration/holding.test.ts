import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { eq, sql } from 'drizzle-orm';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { askingDb, writableDb } from '@/server/db/client';
import { databaseIssue, keptBy, stateIssues, takenBy } from '@/server/db/databaseIssue';
import { snapshot, transaction } from '@/server/db/transaction';
import { document, journal, place } from '@/server/db/schema';
import { anchorJournal, heldJournal, readAnchors } from '@/server/anchors/anchor';
import { logFault } from '@/server/log/fault';
import { log } from '@/server/log/log';
import { changeGroup, createGroup } from '@/server/people/people';
import { forecastGroup } from '@/server/people/groupForecast';
import { createFolder } from '@/server/places/create';
import { journalDifferences } from '@/server/verify/chain';
import { mendLibrary, verifyLibrary } from '@/server/verify/verify';
import { dropPlanted, freshLibrary, furnished, inGroup, newcomer, refusedAs, turns } from '../library';
import { placeOn, say, sees } from '../sheets';

let keeper: Actor;
let ann: Actor;
let ben: Actor;
let home: Awaited<ReturnType<typeof furnished>>;
let folder: string;

beforeAll(async () => {
  process.env['EMBRIN_ANCHORS'] = '';
  folder = await mkdtemp(path.join(tmpdir(), 'embrin-anchors-'));
  keeper = await freshLibrary();
  ann = await newcomer(keeper, 'Ann Reader');
  ben = await newcomer(keeper, 'Ben Other');
  home = await furnished(keeper);
});
afterAll(async () => {
  process.env['EMBRIN_ANCHORS'] = '';
  await dropPlanted();
  await rm(folder, { recursive: true });
});

describe('verifying a library', () => {
  const differing = async () => (await verifyLibrary({ contentBytes: true })).map(({ of, about }) => `${of} ${about}`);

  it('finds each thing that is derived and was put wrong, and mends all of it in one act', async () => {
    const outer = await createFolder(keeper, { parentId: home.dossier.id, name: 'Outer' });
    const inner = await createFolder(keeper, { parentId: outer.id, name: 'Inner' });
    const paper = await fileBuffer(keeper, inner.id, 'Paper.txt', Buffer.from('paper'));
    await say(keeper, placeOn(outer.id), [{ who: ann, gives: ['see'] }], false);
    expect(await differing()).toEqual([]);
    await writableDb().execute(sql`update place set lineage = array[id] where id = ${inner.id}`);
    expect(await differing()).toEqual([`tree ${inner.id}`]);
    await mendLibrary(keeper);
    expect(await differing()).toEqual([]);
    await writableDb().execute(
      sql`update place set scope_id = (select scope_id from place where id = ${home.series.id}) where id = ${inner.id}`,
    );
    await writableDb().execute(sql`delete from scope_entry where person_id = ${ann.personId}`);
    await writableDb().execute(sql`update document set shown_values = '{"x": 1}' where id = ${paper}`);
    await writableDb().execute(sql`update place set fixed_values = '{"x": 1}' where id = ${outer.id}`);
    await writableDb().execute(sql`update place set position = 1 where parent_id = ${home.dossier.id}`);
    const found = await differing();
    for (const what of [`access ${inner.id}`, `access ${outer.id}`, `given ${paper}`, `given ${outer.id}`])
      expect(found).toContain(what);
    await mendLibrary(keeper);
    expect(await differing()).toEqual([]);
    expect(await sees(ann, paper)).toBe(true);
    const [last] = await writableDb()
      .select({ act: journal.act })
      .from(journal)
      .orderBy(sql`id desc`)
      .limit(1);
    expect(last?.act).toBe('library.mended');
  });

  it('finds content that is not what its name says, and content that nothing needs', async () => {
    const paper = await fileBuffer(keeper, home.year.id, 'Bytes.txt', Buffer.from('some bytes'));
    const { rows } = await writableDb().execute<{ content_id: string; sha256: string }>(sql`
      select blob.content_id, blob.sha256 from blob join version using (sha256) join document on document.version_id = version.id
      where document.id = ${paper}`);
    const [row] = rows;
    await writableDb().execute(sql`alter table blob_chunk disable trigger user`);
    await writableDb().execute(sql`update blob_chunk set data = 'same bytes' where content_id = ${row?.content_id}`);
    await writableDb().execute(
      sql`insert into blob_chunk (content_id, start_byte, data) values (gen_random_uuid(), 0, 'left')`,
    );
    const found = await verifyLibrary({ contentBytes: true });
    expect(found.map(({ of }) => of)).toEqual(['content', 'content']);
    expect(found.map(({ about }) => about)).toContain(row?.sha256);
    expect((await verifyLibrary({ contentBytes: false })).length).toBe(1);
    await writableDb().execute(sql`update blob_chunk set data = 'some bytes' where content_id = ${row?.content_id}`);
    await writableDb().execute(
      sql`delete from blob_chunk where not exists (select from blob where blob.content_id = blob_chunk.content_id)`,
    );
  });
});

describe('the journal, held from outside', () => {
  it('says that nothing is kept where no file is named, and refuses to write', async () => {
    expect(await heldJournal(keeper, { check: false })).toMatchObject({ isKept: false, last: null });
    expect(await refusedAs(anchorJournal(keeper))).toBe('unavailable');
  });

  it('tells a journal whose end was cut off, which its chain alone cannot', async () => {
    const file = path.join(folder, 'anchors.jsonl');
    process.env['EMBRIN_ANCHORS'] = file;
    // Settings are read once: another database makes them be read anew, and so does this.
    const address = process.env['DATABASE_URL'];
    process.env['DATABASE_URL'] = `${address}?`;
    await createFolder(keeper, { parentId: home.dossier.id, name: 'Before' });
    const anchor = await anchorJournal(keeper);
    expect(JSON.parse((await readFile(file, 'utf8')).trim())).toEqual(anchor);
    expect(await heldJournal(keeper, { check: true })).toMatchObject({
      anchors: 1,
      checked: { how: 'whole', brokenAt: null },
    });
    // While it is verified others act, and the worker writes anchors of what came after the snapshot: none of that is missing.
    const early = await readAnchors();
    let begin: () => void = () => undefined;
    const others = new Promise<void>((begun) => (begin = begun)).then(async () => {
      await createFolder(keeper, { parentId: home.dossier.id, name: 'Meanwhile' });
      return anchorJournal(keeper);
    });
    const [wrong, falsely] = await snapshot(async (tx) => {
      await tx.execute(sql`select 1`);
      begin();
      await others;
      return [await journalDifferences(tx, early), await journalDifferences(tx, await readAnchors())];
    });
    expect([wrong, falsely?.length]).toEqual([[], 1]);
    const { entryId } = await others;
    await writableDb().execute(sql`alter table journal disable trigger user`);
    await writableDb().execute(sql`delete from journal where id >= ${anchor.entryId}`);
    expect(await heldJournal(keeper, { check: true })).toMatchObject({
      checked: { how: 'cutOff', brokenAt: anchor.entryId },
    });
    expect((await verifyLibrary({ contentBytes: false })).map(({ about }) => about)).toEqual([
      String(anchor.entryId),
      String(entryId),
    ]);
    // A line that was broken off is no anchor, and no reason to fail.
    await writeFile(file, '{"at":"2026', { flag: 'a' });
    expect(await heldJournal(keeper, { check: false })).toMatchObject({ anchors: 2 });
    expect(await refusedAs(heldJournal(ann, { check: false }))).toBe('not-allowed');
    process.env['DATABASE_URL'] = address;
  });
});

describe('a change of a group', () => {
  it('is forecast as what then happens: who gains and loses what, by all sheets that name it', async () => {
    const place_ = await createFolder(keeper, { parentId: home.dossier.id, name: 'For the group' });
    const paper = await fileBuffer(keeper, place_.id, 'Theirs.txt', Buffer.from('theirs'));
    const { id: groupId } = await createGroup(keeper, { name: 'Committee' });
    await changeGroup(keeper, { groupId, name: 'Committee', terms: inGroup(ann), revision: 0 });
    await say(keeper, placeOn(place_.id), [{ who: { groupId }, gives: ['see', 'take'] }], false);
    const lines = await forecastGroup(keeper, { groupId, terms: inGroup(ben) });
    expect(lines).toMatchObject([
      { kind: 'loses', names: ['Ann Reader'], papers: 1, lastWay: false },
      { kind: 'gains', names: ['Ben Other'], papers: 1 },
    ]);
    expect([await sees(ann, paper), await sees(ben, paper)]).toEqual([true, false]);
    await changeGroup(keeper, { groupId, name: 'Committee', terms: inGroup(ben), revision: 1 });
    expect([await sees(ann, paper), await sees(ben, paper)]).toEqual([false, true]);
    expect(await forecastGroup(keeper, { groupId, terms: inGroup(ben) })).toEqual([]);
    expect(await refusedAs(forecastGroup(ann, { groupId, terms: [] }))).toBe('not-allowed');
  });
});

describe('what the database refuses', () => {
  it('has words for every unique constraint that there is', async () => {
    const { rows } = await writableDb().execute<{ name: string }>(sql`
      select index.relname as name from pg_index join pg_class as index on index.oid = indexrelid
        join pg_class as of_table on of_table.oid = indrelid join pg_namespace on pg_namespace.oid = of_table.relnamespace
      where indisunique and nspname = 'public'`);
    const there = new Set(rows.map((row) => row.name));
    // Each that the table speaks of is there; the rest falls to what a unique violation says by itself.
    expect(Object.keys(takenBy).filter((name) => !there.has(name))).toEqual([]);
    expect(stateIssues['23505']).toBeDefined();
  });

  it('has words for rows that are kept by others, and for none that are not there', async () => {
    const { rows } = await writableDb().execute<{ name: string }>(
      sql`select conname as name from pg_constraint where contype = 'f'`,
    );
    const there = new Set(rows.map((row) => row.name));
    expect(Object.keys(keptBy).filter((name) => !there.has(name))).toEqual([]);
  });

  it('is a conflict or something invalid in words, whichever constraint it is', async () => {
    const broken = async (statement: ReturnType<typeof sql>) =>
      writableDb()
        .execute(statement)
        .then(
          () => 'done',
          (error: unknown) => databaseIssue(error)?.kind ?? 'fault',
        );
    expect(
      await broken(
        sql`insert into filing (document_id, place_id, kind, made_by, made_at) values (gen_random_uuid(), ${home.year.id}, 'pointer', ${keeper.personId}, now())`,
      ),
    ).toBe('conflict');
    expect(await broken(sql`select 1 from place where name = ${'a\u0000'}`)).toBe('invalid');
    expect(await broken(sql`select ${'none'}::uuid`)).toBe('invalid');
    expect(await broken(sql`select ${2_147_483_648}::text::integer`)).toBe('invalid');
    expect(await broken(sql`select no_such_column from place`)).toBe('fault');
  });

  it('is tried again where acts stand in each other’s way, and nobody is told', async () => {
    const [one, other] = [
      await createFolder(keeper, { parentId: home.dossier.id, name: 'One' }),
      await createFolder(keeper, { parentId: home.dossier.id, name: 'Other' }),
    ];
    const crossing = (first: string, second: string) =>
      transaction([], async (tx) => {
        await tx.update(place).set({ colour: 'plum' }).where(eq(place.id, first));
        await new Promise((next) => setTimeout(next, 30));
        await tx.update(place).set({ colour: 'plum' }).where(eq(place.id, second));
        return 'done';
      });
    expect(await Promise.all([crossing(one.id, other.id), crossing(other.id, one.id)])).toEqual(['done', 'done']);
  });

  it('costs no more than the act whose connection is ended in the middle, while no statement runs', async () => {
    const ended = transaction([], async (tx) => {
      const { rows } = await tx.execute<{ pid: number }>(sql`select pg_backend_pid() as pid`);
      await askingDb().execute(sql`select pg_terminate_backend(${rows[0]?.pid})`);
      await turns(50);
      await tx.execute(sql`select 1`);
    });
    await expect(ended).rejects.toThrow();
    expect(await transaction([], async () => 'done')).toBe('done');
  });

  it('never waits for a second connection within an act, however many act at once', async () => {
    const done = await Promise.all(
      Array.from({ length: 40 }, () =>
        transaction([], async () => {
          // A use-case that asks past its own transaction gets that transaction.
          const rows = await writableDb().select({ id: document.id }).from(document).limit(1);
          return rows.length;
        }),
      ),
    );
    expect(done).toHaveLength(40);
  });
});

it('writes a fault down with its number, SQLSTATE and constraint, and never with what people typed', async () => {
  const lines: string[] = [];
  const write = jest.spyOn(log(), 'error').mockImplementation((line: unknown) => void lines.push(JSON.stringify(line)));
  const failed = await writableDb()
    .execute(sql`select no_such_column from place where name = ${'The secret name'}`)
    .catch((error: unknown) => error);
  const number = logFault(failed, { where: 'somewhere' });
  write.mockRestore();
  expect(number).toMatch(/^[0-9a-f]{8}$/u);
  expect(lines.join()).toContain(`"fault":"${number}"`);
  expect(lines.join()).toContain('"sqlState":"42703"');
  expect(lines.join()).not.toContain('secret');
});
