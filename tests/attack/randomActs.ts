/** Random acts of every kind on one library by several people at once: what is left has to be what the sheets say. */
import { sql, type SQL } from 'drizzle-orm';
import { plainFields } from '@/core/columns/contract';
import { Refusal } from '@/core/errors/refusal';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { setLock, setStandstill } from '@/server/standstill/standstill';
import { defineColumn, retireColumn } from '@/server/columns/define';
import { setGiven } from '@/server/columns/given';
import { setValues, undoValues } from '@/server/columns/setValues';
import { writableDb } from '@/server/db/client';
import { disposePapers, putBackPapers } from '@/server/disposal/dispose';
import { movePapers, renamePaper } from '@/server/documents/amend';
import { crossFile, leavePlace } from '@/server/documents/crossFile';
import { reorderPapers } from '@/server/documents/reorder';
import { makeMeetings } from '@/server/meetings/meetings';
import { setPlan } from '@/server/plans/plans';
import { openYear, setYearClosed } from '@/server/years/years';
import { changeGroup, createGroup, setActive, setKeeper } from '@/server/people/people';
import { removePlace, renamePlace, reorderPlace } from '@/server/places/amend';
import { setCommon } from '@/server/places/common';
import { createFolder, createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { movePlace } from '@/server/places/move';
import type { Chance } from '../oracle/chance';
import { newcomer } from '../library';

/** What became of each act: done, or the kind of its refusal. Anything else is a fault, with its words. */
export type Outcomes = Map<string, number>;

interface Row {
  readonly id: string;
  readonly revision: number;
  readonly access_revision: number;
}

/** A library with people, groups and columns in it, on which acts are done. */
export class Scene {
  readonly outcomes: Outcomes = new Map();
  #counter = 0;

  private constructor(
    readonly keeper: Actor,
    readonly actors: readonly Actor[],
    readonly people: readonly Actor[],
    readonly groups: readonly string[],
    readonly columns: readonly string[],
  ) {}

  static async furnish(keeper: Actor): Promise<Scene> {
    const people: Actor[] = [];
    for (const name of ['Ann One', 'Ben Two', 'Cleo Three']) people.push(await newcomer(keeper, name));
    const second = await newcomer(keeper, 'Kit Second');
    await setKeeper(keeper, { personId: second.personId, keeper: true });
    const groups: string[] = [];
    for (const name of ['First', 'Second']) groups.push((await createGroup(keeper, { name })).id);
    const root = await libraryId();
    const columns: string[] = [];
    for (const name of ['Remark', 'Status'])
      columns.push((await defineColumn(keeper, { ...plainFields, name, type: 'text', placeId: root })).id);
    for (const name of ['Committees', 'Tenants']) {
      const series = await createSeries(keeper, { name, referencePattern: `${name.charAt(0)}-###` });
      for (const dossier of ['One', 'Two'])
        await createDossier(keeper, { seriesId: series.id, name: dossier, reference: null });
      // All manage at first: what they then shut each other out of is theirs.
      await setAccess(keeper, {
        on: { kind: 'place', id: series.id },
        follows: true,
        revision: 0,
        message: null,
        grants: people.map(({ personId }) => ({
          subject: { kind: 'person', id: personId },
          gives: ['manage'],
          withholds: [],
        })),
      });
    }
    return new Scene(keeper, [keeper, keeper, { ...second, keeper: true }, ...people], people, groups, columns);
  }

  /** One act by one person, at random. */
  async act(chance: Chance, actor: Actor): Promise<void> {
    const name = chance.pick(actNames);
    this.#counter += 1;
    const act = acts[name];
    if (!act) throw new Error(`There is no act ${name}`);
    const outcome = await act(this, chance, actor, this.#counter).then(
      () => 'done',
      (error: unknown) => {
        if (error instanceof Refusal) return error.issue.kind;
        if (error instanceof NothingThere) return 'nothing to do it with';
        throw error;
      },
    );
    const key = `${name}: ${outcome}`;
    this.outcomes.set(key, (this.outcomes.get(key) ?? 0) + 1);
  }

  async place(chance: Chance, kinds: string): Promise<Row> {
    return pick(
      chance,
      sql`select id, revision, access_revision from place where kind = any(${sql.param(kinds.split(','))}::text[])`,
    );
  }
  paper = (chance: Chance, disposed = false): Promise<Row> =>
    pick(chance, sql`select id, revision, access_revision from document where (disposed_at is not null) = ${disposed}`);

  grants(chance: Chance) {
    const subject = () =>
      chance.pick([
        ...this.people.map(({ personId }) => ({ kind: 'person' as const, id: personId })),
        ...this.groups.map((id) => ({ kind: 'group' as const, id })),
        { kind: 'everyone' as const },
      ]);
    const seen = new Set<string>();
    return Array.from({ length: chance.whole(0, 2) }, () => ({
      subject: subject(),
      gives: chance.some(['see', 'take', 'add', 'amend', 'manage'] as const, chance.whole(0, 2)),
      withholds: chance.happens(0.3) ? chance.some(['see', 'take', 'amend'] as const, 1) : [],
    })).filter(({ subject: each }) => {
      const key = 'id' in each ? each.id : each.kind;
      return !seen.has(key) && seen.add(key);
    });
  }
}

class NothingThere extends Error {}

async function libraryId(): Promise<string> {
  const { rows } = await writableDb().execute<{ id: string }>(sql`select id from place where kind = 'library'`);
  return rows[0]?.id ?? '';
}

async function pick(chance: Chance, which: SQL): Promise<Row> {
  const { rows } = await writableDb().execute<{ id: string; revision: number; access_revision: number }>(
    sql`${which} order by id`,
  );
  if (rows.length === 0) throw new NothingThere();
  return chance.pick(rows);
}

type Act = (scene: Scene, chance: Chance, actor: Actor, number: number) => Promise<unknown>;

const all = 'series,dossier,year,folder';

/** Puts another sheet on a place or a paper. */
const restrict = async (
  scene: Scene,
  chance: Chance,
  actor: Actor,
  kind: 'place' | 'paper',
  { id, access_revision: revision }: Row,
) =>
  setAccess(actor, {
    on: { kind, id },
    follows: chance.happens(0.75),
    revision,
    message: null,
    grants: scene.grants(chance),
  });

/** Every kind of act that changes something which is derived, or relies on it. */
const acts: Readonly<Record<string, Act>> = {
  makeFolder: async (scene, chance, actor, number) =>
    createFolder(actor, { parentId: (await scene.place(chance, all)).id, name: `Folder ${number}` }),
  makeDossier: async (scene, chance, actor, number) =>
    createDossier(actor, {
      seriesId: (await scene.place(chance, 'series')).id,
      name: `Dossier ${number}`,
      reference: null,
    }),
  file: async (scene, chance, actor, number) =>
    fileBuffer(
      actor,
      (await scene.place(chance, all)).id,
      `Paper ${number}.txt`,
      Buffer.from(`Paper ${chance.whole(0, 30)}`),
    ),
  movePlace: async (scene, chance, actor) =>
    movePlace(actor, { placeId: (await scene.place(chance, 'folder')).id, toId: (await scene.place(chance, all)).id }),
  renamePlace: async (scene, chance, actor, number) => {
    const { id, revision } = await scene.place(chance, 'folder,dossier');
    return renamePlace(actor, { placeId: id, name: `Renamed ${number}`, revision });
  },
  removePlace: async (scene, chance, actor) =>
    removePlace(actor, { placeId: (await scene.place(chance, 'folder')).id }),
  reorderPlace: async (scene, chance, actor) =>
    reorderPlace(actor, { placeId: (await scene.place(chance, 'folder')).id, beforeId: null }),
  makeCommon: async (scene, chance, actor) =>
    setCommon(actor, { placeId: (await scene.place(chance, 'folder')).id, onlyId: null }),
  restrictPlace: async (scene, chance, actor) =>
    restrict(scene, chance, actor, 'place', await scene.place(chance, all)),
  restrictPaper: async (scene, chance, actor) => restrict(scene, chance, actor, 'paper', await scene.paper(chance)),
  group: async (scene, chance, actor) => {
    const groupId = chance.pick(scene.groups);
    const [row] = (
      await writableDb().execute<{ name: string; revision: number }>(
        sql`select name, revision from person_group where id = ${groupId}`,
      )
    ).rows;
    const other = scene.groups.find((id) => id !== groupId) ?? groupId;
    const open = { role: 'member' as const, from: null, until: null };
    return changeGroup(actor, {
      groupId,
      name: row?.name ?? '',
      revision: row?.revision ?? 0,
      terms: [
        ...chance.some(scene.people, chance.whole(0, 2)).map(({ personId }) => ({
          member: { kind: 'person' as const, id: personId },
          ...open,
        })),
        ...(chance.happens(0.3) ? [{ member: { kind: 'group' as const, id: other }, ...open }] : []),
      ],
    });
  },
  lockPapers: async (scene, chance, actor) =>
    setLock(actor, { documentIds: [(await scene.paper(chance)).id], locked: chance.happens(0.15) }),
  standstill: async (scene, chance, actor) => {
    const { id, revision } = await scene.place(chance, 'dossier,year,folder');
    const [locked, closed] = [chance.happens(0.08), chance.happens(0.08)];
    return setStandstill(actor, { placeId: id, locked, closed, reason: 'because', revision });
  },
  setValues: async (scene, chance, actor, number) =>
    setValues(actor, {
      documentIds: [...new Set([(await scene.paper(chance)).id, (await scene.paper(chance)).id])],
      values: { [chance.pick(scene.columns)]: chance.happens(0.2) ? null : `value ${number}` },
    }),
  undoValues: async (_scene, chance, actor) => {
    const { rows } = await writableDb().execute<{ entry_id: string }>(
      sql`select entry_id from value_batch order by entry_id desc limit 10`,
    );
    if (rows.length === 0) throw new NothingThere();
    return undoValues(actor, { entryId: Number(chance.pick(rows).entry_id) });
  },
  give: async (scene, chance, actor, number) => {
    const { id, revision } = await scene.place(chance, all);
    const given = chance.some(scene.columns, chance.whole(0, 2)).map((columnId) => ({
      columnId,
      mode: chance.pick(['fixed', 'offered'] as const),
      value: `given ${number}`,
      binding: null,
    }));
    return setGiven(actor, { placeId: id, revision, given });
  },
  retire: async (scene, chance, actor) => {
    const columnId = chance.pick(scene.columns);
    const { rows } = await writableDb().execute<{ revision: number }>(
      sql`select revision from column_def where id = ${columnId}`,
    );
    return retireColumn(actor, { columnId, retired: chance.happens(0.3), revision: rows[0]?.revision ?? 0 });
  },
  movePapers: async (scene, chance, actor) =>
    movePapers(actor, {
      documentIds: [...new Set([(await scene.paper(chance)).id, (await scene.paper(chance)).id])],
      toId: (await scene.place(chance, all)).id,
    }),
  crossFile: async (scene, chance, actor) =>
    crossFile(actor, {
      documentIds: [(await scene.paper(chance)).id],
      toIds: [(await scene.place(chance, all)).id],
      kind: chance.pick(['pointer', 'opening']),
    }),
  leave: async (_scene, chance, actor) => {
    const { rows } = await writableDb().execute<{ document_id: string; place_id: string }>(
      sql`select document_id, place_id from filing order by id`,
    );
    if (rows.length === 0) throw new NothingThere();
    const { document_id: documentId, place_id: placeId } = chance.pick(rows);
    return leavePlace(actor, { documentId, placeId });
  },
  renamePaper: async (scene, chance, actor, number) => {
    const { id, revision } = await scene.paper(chance);
    return renamePaper(actor, { documentId: id, title: `Title ${number}`, revision });
  },
  reorderPapers: async (scene, chance, actor) =>
    reorderPapers(actor, { documentIds: [(await scene.paper(chance)).id], beforeId: null }),
  dispose: async (scene, chance, actor) => disposePapers(actor, { documentIds: [(await scene.paper(chance)).id] }),
  putBack: async (scene, chance, actor) =>
    putBackPapers(actor, { documentIds: [(await scene.paper(chance, true)).id] }),
  plan: async (scene, chance, actor) => {
    const { id } = await scene.place(chance, 'series');
    const { rows } = await writableDb().execute<{ revision: number }>(
      sql`select revision from filing_plan where series_id = ${id}`,
    );
    const folders = chance.some(['Agendas', 'Minutes', 'Letters'] as const, chance.whole(0, 2)).map((pattern, at) => ({
      id: `00000000-0000-4000-8000-00000000010${at}`,
      parentId: null,
      pattern,
      timing: chance.pick(['once', 'year', 'meeting'] as const),
    }));
    return setPlan(actor, { seriesId: id, folders, revision: rows[0]?.revision ?? 0 });
  },
  meeting: async (scene, chance, actor) =>
    makeMeetings(actor, {
      dossierId: (await scene.place(chance, 'dossier')).id,
      days: [`2026-0${chance.whole(4, 9)}-1${chance.whole(0, 9)}`],
      title: 'Meeting',
      venue: '',
    }),
  openYear: async (_scene, chance, actor) => openYear(actor, { startYear: chance.whole(2018, 2030) }),
  closeYear: async (_scene, chance, actor) =>
    setYearClosed(actor, { startYear: chance.whole(2024, 2028), closed: chance.happens(0.4), reason: 'because' }),
  switchOff: async (scene, chance, actor) =>
    setActive(actor, { personId: chance.pick(scene.people).personId, active: chance.happens(0.8) }),
  demote: async (scene, chance, actor) =>
    setKeeper(actor, { personId: chance.pick(scene.actors.slice(1, 3)).personId, keeper: chance.happens(0.8) }),
};
/** Papers and folders come more often than they go, so that there is something to act on. */
const actNames = [...Object.keys(acts), 'file', 'file', 'file', 'makeFolder', 'makeFolder', 'crossFile', 'putBack'];
