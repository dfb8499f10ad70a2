import { and, arrayContains, eq, isNotNull } from 'drizzle-orm';
import { readySets, listOf } from '@/core/access/capability';
import { fromReady } from '@/core/plans/planEdit';
import type { Actor } from '@/server/gate/actor';
import { setAccess } from '@/server/access/change';
import { atMoment } from '@/server/base/clock';
import { db } from '@/server/db/client';
import { person, place } from '@/server/db/schema';
import { makeMeetings } from '@/server/meetings/meetings';
import { detailsOf, setDetails, setFields } from '@/server/dossiers/details';
import { planOf, setPlan } from '@/server/plans/plans';
import { sayOfExpected } from '@/server/expected/says';
import { allLists } from '@/server/columns/read';
import { foundLibrary } from '@/server/library/found';
import { changeGroup, createGroup, invite, join, setKeeper, setOutside } from '@/server/people/people';
import { createFolder, createSeries } from '@/server/places/create';
import { createDossier } from '@/server/dossiers/create';
import { openYear } from '@/server/years/years';
import { openPlace } from '@/server/places/open';
import { readDay } from '@/core/calendar/typedDay';
import { librarySettings } from '@/server/library/settings';
import { defineColumns, describeQuarter, endOfQuarter, labelPapers, type DemoColumns } from './describe';
import { layDuties } from './duties';
import { keepMembershipsCurrent } from '@/server/scopes/memberships';
import { layArrivals } from './arrivals';
import { layFiledArrivals } from './filedArrivals';
import { layScans } from './scanned';
import { layAgendas } from './agendas';
import { layMinutes } from './minutes';
import { layPacks } from './packs';
import { laySignatures } from './signatures';
import { fileBuffer } from './file';
import { committees, detailsFor, filingYears, governing, seriesPlans, works } from './layout';
import { writeNotes } from './notes';
import { formsFolder, makers, planPapers, tenantForms, type PaperPlan } from './papers';
import { colleagues, demoPassword, groups, keeper, outsiders, secondKeeper } from './people';
import { Chance } from '../core/chance/chance';
import { someone, type People, type Places } from './named';
import { addMess } from './mess';

const seed = 20_230_401;
const began = new Date('2023-04-03T09:00:00Z');
/** The day on which the demo's story stands. */
export const storyEnds = new Date('2026-11-20T00:00:00Z');

const formsWritten = new Date('2026-11-18T00:00:00Z');

type Say = (words: string) => void;

/** The papers of the demo, the same ones always, in the order in which they were filed. */
export const demoPapers = (): PaperPlan[] => planPapers(new Chance(seed), storyEnds);

/**
 * Builds the demo library through the use-cases that a person's clicks reach, act after act in the order of its story.
 * `asText`: only the papers of these series, each a line of plain text under its own title; for tests of how papers are filed.
 * `withDuties`: reviews, retention and signatures too, which are otherwise left out where papers are lines of text.
 */
export async function buildDemo(
  say: Say,
  {
    asText = null,
    withDuties = asText === null,
  }: { readonly asText?: readonly string[] | null; readonly withDuties?: boolean } = {},
): Promise<{ papers: number }> {
  const make = asText ? makeLine : makeFile;
  const people = await atMoment(began, addPeople);
  say('People and groups are in');
  const places = await atMoment(began, () => layOut(people));
  say(`${places.size} places are laid out`);
  const columns = await atMoment(began, () => layColumns(people, places));
  const plans = asText
    ? demoPapers()
        .filter((plan) => asText.includes(plan.series))
        .map(underText)
    : demoPapers();
  const filed: { id: string; plan: PaperPlan }[] = [];
  const maren = someone(people, keeper.name);
  let described = 0;
  // At the end of each quarter its papers are described; one that came again as a new version was described before.
  const describe = async (until: number) => {
    const known = new Set(filed.slice(0, described).map((each) => each.id));
    const coming = filed.slice(described).filter((each) => !known.has(each.id));
    const [first] = coming;
    if (!first || endOfQuarter(first.plan.draft.written) >= until) return;
    described = filed.length;
    await describeQuarter(maren, columns, [...new Map(coming.map((each) => [each.id, each])).values()]);
  };
  // Made a few ahead of their filing: making takes the processor, filing mostly waits for the database.
  const ahead = 4;
  const coming = plans.slice(0, ahead).map(make);
  for (const [index, plan] of plans.entries()) {
    const content = await coming.shift();
    const next = plans[index + ahead];
    if (next) coming.push(make(next));
    if (!content) throw new Error('A paper was not made');
    await describe(plan.draft.written.getTime());
    filed.push({ id: await filePlan(people, places, plan, content), plan });
    if ((index + 1) % 200 === 0) say(`${index + 1} of ${plans.length} papers are filed`);
  }
  await describe(storyEnds.getTime());
  for (const plan of tenantForms(formsWritten).map(asText ? underText : (each) => each))
    await filePlan(people, places, plan, await make(plan));
  await atMoment(storyEnds, () => labelPapers(maren, filed));
  say('The papers are described');
  await atMoment(storyEnds, () => layPlans(maren, places, columns));
  say('Filing plans are kept to');
  await atMoment(storyEnds, () => addMess(people, places, filed, make));
  if (withDuties) {
    const terms = await termsByName();
    await atMoment(storyEnds, () => layDuties(people, places, columns, (name) => someone(terms, name), storyEnds));
    say('Reviews and retention are laid down');
    await laySignatures(people, places, storyEnds);
    // Terms of office have begun since the groups were made.
    await atMoment(storyEnds, async () =>
      keepMembershipsCurrent({ ...(await librarySettings()), membershipDay: null }),
    );
    await atMoment(storyEnds, () => layAgendas(people, places, storyEnds));
    say('Agendas are written');
    if (!asText) await atMoment(storyEnds, () => layPacks(people, places, storyEnds));
    say('Packs are issued');
    if (!asText) await atMoment(storyEnds, () => layMinutes(people, places, storyEnds));
    say('Minutes are begun');
    if (!asText) {
      await layFiledArrivals(places, someone(people, keeper.name), storyEnds);
      await layArrivals(places, storyEnds);
      await layScans(places, storyEnds);
    }
    say('Mail has come in');
  }
  if (!asText) await atMoment(storyEnds, () => writeNotes(people, places));
  return { papers: plans.length };
}

const underText = (plan: PaperPlan): PaperPlan => ({ ...plan, fileName: plan.fileName.replace(/\.[^.]+$/u, '.txt') });
const makeLine = ({ draft, dossier }: PaperPlan): Promise<Buffer> =>
  Promise.resolve(Buffer.from(`${draft.title}, ${dossier}, ${draft.written.toISOString()}\n`));

const makeFile = (plan: PaperPlan): Promise<Buffer> => {
  const maker = makers[plan.ending];
  if (!maker) throw new Error(`Nobody makes .${plan.ending}`);
  const made = maker(plan.draft);
  made.catch(() => undefined);
  return made;
};

async function addPeople(): Promise<People> {
  await foundLibrary({
    libraryName: 'Saltmarrow Harbour Trust',
    name: keeper.name,
    email: keeper.email,
    password: demoPassword,
    timeZone: 'Europe/London',
    yearStartMonth: 4,
  });
  const [row] = await db().select({ id: person.id }).from(person).where(eq(person.email, keeper.email));
  if (!row) throw new Error('The keeper is not there');
  const maren: Actor = { personId: row.id, name: keeper.name, email: keeper.email, keeper: true };
  const people = new Map([[maren.name, maren]]);
  for (const { name, email } of colleagues) {
    const { link } = await invite(maren, { name, email, keeper: false });
    await join({ token: link.slice(link.lastIndexOf('/') + 1), name, password: demoPassword });
    const [joined] = await db().select({ id: person.id }).from(person).where(eq(person.email, email));
    if (joined) people.set(name, { personId: joined.id, name, email, keeper: false });
  }
  const second = someone(people, secondKeeper);
  await setKeeper(maren, { personId: second.personId, keeper: true });
  people.set(secondKeeper, { ...second, keeper: true });
  for (const name of outsiders) await setOutside(maren, { personId: someone(people, name).personId, outside: true });
  for (const { name, members } of groups) {
    const { id } = await createGroup(maren, { name });
    const terms = members.map(({ name: member, role = 'member', from = null, until = null }) => ({
      member: { kind: kindOf(member), id: someone(people, member).personId },
      role,
      from,
      until,
    }));
    await changeGroup(maren, { groupId: id, name, terms, revision: 0 });
    people.set(name, { personId: id, name, email: '', keeper: false });
  }
  return people;
}

async function layOut(people: People): Promise<Places> {
  const maren = someone(people, keeper.name);
  const places: Places = new Map();
  for (const startYear of filingYears) await openYear(maren, { startYear }).catch(() => undefined);
  const series = async (name: string, referencePattern: string | null, byYear = true) => {
    const made = await createSeries(maren, { name, referencePattern, byYear });
    places.set(name, made.id);
    return made.id;
  };
  const dossier = async (seriesName: string, seriesId: string, name: string, reference: string | null) => {
    const made = await createDossier(maren, { seriesId, name, reference });
    places.set(`${seriesName}/${name}`, made.id);
    const page = await openPlace(maren, { placeId: made.id });
    for (const child of page.children) places.set(`${seriesName}/${name}/${child.filingYear}`, child.id);
  };
  const board = await series('Board & committees', null);
  for (const { name, reference } of committees) await dossier('Board & committees', board, name, reference);
  const berths = await series('Berth tenants', 'T-###');
  // The same names as the papers are planned for: both draw them first from the same seed.
  const tenantNames = new Set(
    demoPapers()
      .filter((plan) => plan.series === 'Berth tenants')
      .map((plan) => plan.dossier),
  );
  for (const name of tenantNames) await dossier('Berth tenants', berths, name, null);
  const forms = await createFolder(maren, { parentId: berths, name: formsFolder, common: true });
  places.set(`Berth tenants/${formsFolder}`, forms.id);
  const supplierSeries = await series('Suppliers', 'S-###');
  const supplierNames = new Set(
    demoPapers()
      .filter((plan) => plan.series === 'Suppliers')
      .map((plan) => plan.dossier),
  );
  for (const name of supplierNames) await dossier('Suppliers', supplierSeries, name, null);
  const jobs = await series('Works', 'W-{yy}-##', false);
  for (const { name, reference } of works) await dossier('Works', jobs, name, reference);
  const rules = await series('Governing papers', null, false);
  for (const { name, reference } of governing) await dossier('Governing papers', rules, name, reference);
  await shareOut(people, places);
  return places;
}

async function layColumns(people: People, places: Places): Promise<DemoColumns> {
  const { rootId } = await librarySettings();
  return defineColumns(someone(people, keeper.name), rootId, (name) => someone(places, name));
}

const kindOf = (name: string): 'group' | 'person' => (groups.some((group) => group.name === name) ? 'group' : 'person');

async function shareOut(people: People, places: Places): Promise<void> {
  const maren = someone(people, keeper.name);
  const open = async (place: string, to: Record<string, keyof typeof readySets | 'onlooker'>, follows = true) => {
    const grants = Object.entries(to).map(([name, set]) => ({
      subject: { kind: kindOf(name), id: someone(people, name).personId },
      // Reads on the screen, and takes no copies.
      gives: set === 'onlooker' ? ['see' as const] : listOf(readySets[set]),
      withholds: [],
    }));
    await setAccess(maren, {
      on: { kind: 'place', id: someone(places, place) },
      follows,
      grants,
      revision: 0,
      message: null,
    });
  };
  await open('Board & committees', { Commissioners: 'reader' });
  await open('Board & committees/Finance & audit', {
    'Finance & audit committee': 'reader',
    'Tobias Fenn': 'contributor',
    'Sunniva Dale': 'reader',
  });
  await open('Board & committees/Full board', { 'Sunniva Dale': 'onlooker' });
  await open('Board & committees/Nominations', { 'Nominations committee': 'reader' }, false);
  await open('Board & committees/Navigation & safety', { 'Petra Lindqvist-Hale': 'officer' });
  await open('Board & committees/Works & dredging', {
    'Anaïs O’Dowd': 'contributor',
    'Petra Lindqvist-Hale': 'contributor',
  });
  await open('Berth tenants', { Officers: 'reader', 'Oona Marsh': 'manager', 'Petra Lindqvist-Hale': 'officer' });
  await open('Suppliers', { Officers: 'reader', 'Tobias Fenn': 'officer', 'Sunniva Dale': 'reader' });
  await open('Works', {
    Officers: 'reader',
    Commissioners: 'reader',
    'Anaïs O’Dowd': 'contributor',
    'Petra Lindqvist-Hale': 'officer',
  });
  await open('Governing papers', { Officers: 'reader', Commissioners: 'reader' });
}

async function filePlan(people: People, places: Places, plan: PaperPlan, content: Buffer): Promise<string> {
  // Filed in working hours of the day it was written.
  const at = new Date(plan.draft.written.getTime() + 9 * 3_600_000 + ((plan.fileName.length * 1_237_000) % 28_800_000));
  return atMoment(at, async () => {
    const maren = someone(people, keeper.name);
    const dossier = `${plan.series}/${plan.dossier}`;
    const parent = plan.year === null ? dossier : `${dossier}/${plan.year}`;
    const placeId = plan.folder === null ? someone(places, parent) : await folderOf(maren, places, parent, plan.folder);
    const by = someone(people, plan.by);
    // What a contributor may not do, making folders and new versions among it, the keeper has done.
    const actor = plan.asVersion || plan.series === 'Berth tenants' ? maren : by;
    return fileBuffer(actor, placeId, plan.fileName, content, plan.asVersion ? 'version' : 'both');
  });
}

async function folderOf(maren: Actor, places: Places, parent: string, name: string): Promise<string> {
  const key = `${parent}/${name}`;
  const there = places.get(key);
  if (there) return there;
  const meetingDay = meetingDayOf(name, Number(parent.slice(parent.lastIndexOf('/') + 1)));
  const made = await createFolder(maren, { parentId: someone(places, parent), name, meetingDay });
  places.set(key, made.id);
  return made.id;
}

/** The day of a meeting by the name of its folder (`14 Jul meeting`) and its filing year, which starts in April. */
function meetingDayOf(name: string, startYear: number): string | null {
  const short = /^(?<day>\d{1,2} \p{L}{3}) meeting$/u.exec(name)?.groups?.['day'];
  if (short === undefined) return null;
  const read = readDay(`${short} ${startYear}`);
  if (!read.ok) return null;
  return Number(read.value.slice(5, 7)) < 4 ? read.value.replace(/^\d{4}/u, String(startYear + 1)) : read.value;
}

const termsByName = async (): Promise<ReadonlyMap<string, string>> =>
  new Map((await allLists(db())).flatMap((list) => list.terms.map((term) => [term.name, term.id] as const)));

/** Plans for what grew by hand in the first years: what is there already becomes the plan's. */
async function layPlans(maren: Actor, places: Places, columns: DemoColumns): Promise<void> {
  const terms = await termsByName();
  const names = { column: (name: string) => someone(columns, name), term: (name: string) => someone(terms, name) };
  for (const plan of seriesPlans) {
    const seriesId = someone(places, plan.series);
    const fields = plan.fields.map((field) => ({ ...field, id: crypto.randomUUID(), choices: [...field.choices] }));
    await setFields(maren, { seriesId, fields, revision: 0 });
    const folders = [...fromReady(plan.folders, () => crypto.randomUUID())];
    const expected = plan.expected.map(({ folder, conditions, ...each }) => ({
      ...each,
      id: crypto.randomUUID(),
      folderId: folders.find((one) => one.pattern === folder)?.id ?? null,
      conditions: conditions(names),
    }));
    await setPlan(maren, { seriesId, folders, expected, revision: 1 });
    const { children } = await openPlace(maren, { placeId: seriesId });
    for (const [index, dossier] of children.filter((child) => child.kind === 'dossier').entries()) {
      const typed = detailsFor(plan.series, dossier, index);
      const details = Object.fromEntries(fields.map(({ id, name }) => [id, typed[name] ?? '']));
      const { revision } = await detailsOf(maren, { dossierId: dossier.id });
      await setDetails(maren, { dossierId: dossier.id, details, revision });
    }
  }
  for (const { name } of committees) {
    const dossierId = someone(places, `Board & committees/${name}`);
    const held = await db()
      .select({ day: place.meetingDay })
      .from(place)
      .where(and(isNotNull(place.meetingDay), arrayContains(place.lineage, [dossierId])));
    const days = held.flatMap((row) => row.day ?? []);
    if (days.length > 0) await makeMeetings(maren, { dossierId, days, title: name, venue: 'Harbour office' });
  }
  await waiveReport(maren, places);
}

/** A committee that met once has its year told in the board's report. */
async function waiveReport(maren: Actor, places: Places): Promise<void> {
  const { expected } = await planOf(maren, { seriesId: someone(places, 'Board & committees') });
  const report = expected.find((each) => each.timing === 'year');
  if (report)
    await sayOfExpected(maren, {
      expectationId: report.id,
      dossierId: someone(places, 'Board & committees/Nominations'),
      startYear: 2023,
      meetingId: null,
      says: { notNeeded: 'The committee met twice; the board’s report tells of it.' },
    });
}
