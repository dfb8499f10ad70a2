import { and, asc, eq, isNull, notLike, sql } from 'drizzle-orm';
import type { ReadInputOf } from '@/core/contract';
import type { Actor } from '@/server/gate/actor';
import { addAttendees, answerMeeting } from '@/server/agenda/attendance';
import { beginAgenda } from '@/server/agenda/begin';
import { callForPaper } from '@/server/agenda/calls';
import { addItems, changeItem, setAgenda } from '@/server/agenda/items';
import { attachPapers } from '@/server/agenda/papers';
import { agendaSheet, type AgendaOf } from '@/server/agenda/read';
import { db } from '@/server/db/client';
import { document, place } from '@/server/db/schema';
import { makeMeetings, meetingsOf } from '@/server/meetings/meetings';
import { someone, type People, type Places } from './named';
import { keeper } from './people';

type Says = Partial<Omit<ReadInputOf<'agenda.changeItem'>, 'itemId' | 'revision'>> & { readonly title: string };

/** With what the agendas of a committee begin. */
const standing: readonly Says[] = [
  { title: 'Apologies for absence', minutes: 2 },
  { title: 'Declarations of interest', minutes: 3, kind: 'noting' },
  { title: 'Minutes of the last meeting', minutes: 5, kind: 'decision', presenter: 'Idris Quaye' },
  { title: 'Matters carried over', takesCarried: true },
  { title: 'Any other business', minutes: 10 },
  { title: 'Date of the next meeting', minutes: 2, kind: 'noting' },
];

interface Committee {
  readonly name: string;
  /** The day of its next meeting. */
  readonly meets: string;
  /** Some have no account. */
  readonly members: readonly string[];
  readonly inAttendance: readonly string[];
  /** What the last meeting spoke of besides, and carried over. */
  readonly carried: Says;
  /** The paper that is asked for, for the first of them. */
  readonly asked: { readonly what: string; readonly of: string; readonly dueOn: string };
  /** What the next one has, before any other business. */
  readonly coming: readonly (Says & { readonly within?: readonly Says[]; readonly confidential?: readonly string[] })[];
}

/** The committees whose agendas the demo has. */
export const agendaCommittees: readonly Committee[] = [
  {
    name: 'Full board',
    meets: '2027-01-12',
    members: ['Idris Quaye', 'Ruari Blackwood', 'Hesper Lund', 'Corin Vane', 'Nessa Brook'],
    inAttendance: ['Maren Tolliver', 'Petra Lindqvist-Hale'],
    carried: { title: 'Lighting of Marsh Quay', minutes: 10, kind: 'decision', presenter: 'Petra Lindqvist-Hale' },
    asked: { what: 'Report on the three tenders', of: 'Ruari Blackwood', dueOn: '2027-01-05' },
    coming: [
      {
        title: 'Dredging of the Cockle Hard',
        minutes: 5,
        kind: 'decision',
        presenter: 'Petra Lindqvist-Hale',
        within: [
          { title: 'Tenders', minutes: 15, kind: 'decision' },
          { title: 'Notice to berth holders', minutes: 5, kind: 'information' },
        ],
      },
      {
        title: 'Claim of a former tenant',
        minutes: 15,
        kind: 'decision',
        presenter: 'Idris Quaye',
        notes: 'Legal advice will be given at the meeting.',
        confidential: ['Idris Quaye'],
      },
      { title: 'Harbour dues for the coming year', minutes: 20, kind: 'decision', presenter: 'Tobias Fenn' },
    ],
  },
  {
    name: 'Finance & audit',
    meets: '2026-12-08',
    members: ['Idris Quaye', 'Tobias Fenn', 'Hesper Lund', 'Corin Vane'],
    inAttendance: ['Maren Tolliver', 'Sunniva Dale'],
    carried: { title: 'Reserves', minutes: 10, kind: 'information', presenter: 'Tobias Fenn' },
    asked: { what: 'Accounts to the end of November', of: 'Tobias Fenn', dueOn: '2026-12-03' },
    coming: [
      { title: 'Accounts to date', minutes: 15, kind: 'information', presenter: 'Tobias Fenn' },
      { title: 'Appointment of the auditor', minutes: 10, kind: 'decision', presenter: 'Idris Quaye' },
    ],
  },
];

const plain = {
  presenter: '',
  minutes: null,
  kind: null,
  notes: '',
  readers: null,
  carriesOver: false,
  takesCarried: false,
};

/** Two committees have standing items, the agenda of their last meeting with its papers, and one for the next. */
export async function layAgendas(people: People, places: Places, now: Date): Promise<void> {
  const maren = someone(people, keeper.name);
  for (const committee of agendaCommittees) {
    const dossierId = someone(places, `Board & committees/${committee.name}`);
    const template = await beginAgenda(maren, { of: { dossierId } });
    const written = new Writing(maren, people, { dossierId });
    for (const each of standing) await written.add(each);
    await setAgenda(maren, { agendaId: template.agendaId, startsAt: 18 * 60 + 30, numbering: 'figures', revision: 0 });
    const meetings = await meetingsOf(maren, { dossierId });
    const today = now.toISOString().slice(0, 10);
    const last = meetings.findLast(({ day }) => day < today);
    if (!last) throw new Error(`${committee.name} has met never`);
    const next = await nextMeeting(maren, dossierId, committee);
    await layLast(new Writing(maren, people, { meetingId: last.id }), committee, last.id);
    await layNext(new Writing(maren, people, { meetingId: next.id }), committee);
    await askFor(maren, people, next.id, committee);
    const [chair] = committee.members;
    await answerMeeting(someone(people, chair ?? ''), { meetingId: next.id, answer: 'coming' });
  }
}

/** The meeting to come, with its folder. */
async function nextMeeting(maren: Actor, dossierId: string, { name, meets }: Committee) {
  await makeMeetings(maren, { dossierId, days: [meets], title: name, venue: 'Harbour office' });
  const made = (await meetingsOf(maren, { dossierId })).find(({ day }) => day === meets);
  if (!made) throw new Error(`The next meeting of ${name} was not made`);
  return made;
}

/** The last meeting: an item for each paper in its folder, and one that was carried over. */
async function layLast(
  written: Writing,
  { members, inAttendance, carried }: Committee,
  meetingId: string,
): Promise<void> {
  await beginAgenda(written.maren, { of: { meetingId } });
  const attends = (names: readonly string[], part: 'member' | 'inAttendance') =>
    names.map((name) => ({ personId: written.people.get(name)?.personId ?? null, name, part }));
  await addAttendees(written.maren, {
    meetingId,
    people: [...attends(members, 'member'), ...attends(inAttendance, 'inAttendance')],
  });
  const papers = await db()
    .select({ id: document.id, title: document.title })
    .from(document)
    .innerJoin(place, eq(place.id, document.homeId))
    .where(
      and(
        sql`exists (select from ${place} as folder where folder.id = any(${place.lineage}) and folder.planned_key like ${`% ${meetingId}`})`,
        notLike(document.title, 'Minutes of %'),
        notLike(document.title, 'Agenda%'),
        isNull(document.disposedAt),
      ),
    )
    .orderBy(asc(document.title), asc(document.id))
    .limit(8);
  for (const [at, { id, title }] of papers.entries()) {
    const itemId = await written.add({ title, minutes: 10, kind: at % 2 === 0 ? 'information' : 'decision' });
    await attachPapers(written.maren, { itemId, documentIds: [id] });
  }
  await written.add({ ...carried, carriesOver: true });
}

async function layNext(written: Writing, { coming }: Committee): Promise<void> {
  await beginAgenda(written.maren, { of: written.of });
  for (const { within = [], confidential, ...says } of coming) {
    const readers = confidential?.map((name) => someone(written.people, name).personId) ?? null;
    const itemId = await written.add({ ...says, readers });
    for (const each of within) await written.add(each, itemId);
  }
}

/** Writes the items of one agenda, before any other business where it has that. */
class Writing {
  constructor(
    readonly maren: Actor,
    readonly people: People,
    readonly of: AgendaOf,
  ) {}

  async add({ title, ...says }: Says, parentId: string | null = null): Promise<string> {
    const { agenda, items } = await agendaSheet(this.maren, { of: this.of });
    const before = parentId === null ? (items.find((each) => each.title === 'Any other business')?.id ?? null) : null;
    const { itemIds } = await addItems(this.maren, {
      agendaId: agenda?.id ?? '',
      parentId,
      beforeId: 'dossierId' in this.of ? null : before,
      titles: [title],
    });
    const [itemId] = itemIds;
    if (itemId === undefined) throw new Error(`The item ${title} was not made`);
    await changeItem(this.maren, { itemId, ...plain, title, ...says, revision: 0 });
    return itemId;
  }
}

/** Somebody owes a paper for the first item of the next meeting that is its own. */
async function askFor(maren: Actor, people: People, meetingId: string, { asked, coming }: Committee): Promise<void> {
  const { items } = await agendaSheet(maren, { of: { meetingId } });
  const itemId = items.find(({ title }) => title === coming[0]?.title)?.id ?? '';
  const { personId } = someone(people, asked.of);
  await callForPaper(maren, { itemId, what: asked.what, personId, who: asked.of, dueOn: asked.dueOn });
}
