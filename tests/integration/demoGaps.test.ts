/**
 * The gaps of the demo library, worked out once more from nothing but the list of files that its script makes: no plan, no
 * conditions, no tally, only titles, folders and days.
 */
import { eq } from 'drizzle-orm';
import { buildDemo, demoPapers, storyEnds } from '@/demo/build';
import { committees, detailsFor, filingYears, works } from '@/demo/layout';
import { tenantForms, type PaperPlan } from '@/demo/papers';
import { keeper } from '@/demo/people';
import type { Actor } from '@/server/gate/actor';
import { atMoment } from '@/server/base/clock';
import { db } from '@/server/db/client';
import { person } from '@/server/db/schema';
import { gapsOf } from '@/server/expected/gaps';
import { openRack } from '@/server/expected/rack';
import { listSeries } from '@/server/places/open';
import { dropLibrary, emptyLibrary } from '../library';

const dayMs = 86_400_000;
const today = storyEnds.toISOString().slice(0, 10);
const later = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * dayMs).toISOString().slice(0, 10);
const overdue = (due: string): boolean => due < today;

const papers = demoPapers();
const of = (series: string, dossier: string): PaperPlan[] =>
  papers.filter((paper) => paper.series === series && paper.dossier === dossier);
const begins = (words: string) => (paper: PaperPlan) => paper.draft.title.startsWith(words);

/** The day of a folder such as `14 Jul meeting` in a filing year from April. */
function meetingDay(folder: string, year: number): string {
  const [date = '', month = ''] = folder.split(' ');
  const number = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ').indexOf(month) + 1;
  return `${number < 4 ? year + 1 : year}-${String(number).padStart(2, '0')}-${date.padStart(2, '0')}`;
}

function boardGaps(): string[] {
  return committees.flatMap(({ name }) => {
    const all = of('Board & committees', name);
    const meetings = new Map<string, PaperPlan[]>();
    for (const paper of all)
      if (paper.folder?.endsWith(' meeting') && paper.year !== null) {
        const day = meetingDay(paper.folder, paper.year);
        meetings.set(day, [...(meetings.get(day) ?? []), paper]);
      }
    const ofMeetings = [...meetings].flatMap(([day, held]) => {
      const minutes = held.filter(begins('Minutes'));
      return [
        ...(held.some(begins('Agenda')) || !overdue(later(day, -5)) ? [] : [`Agenda ${day}`]),
        ...(minutes.some((paper) => !paper.draft.title.includes('(draft')) || !overdue(later(day, 14))
          ? []
          : [`Minutes ${day}`]),
        ...(minutes.some((paper) => paper.draft.title.includes(', signed')) || !overdue(later(day, 60))
          ? []
          : [`Signed minutes ${day}`]),
      ];
    });
    const ofYears = filingYears.filter(
      (year) =>
        overdue(later(`${year + 1}-03-31`, 61)) &&
        !all.some((paper) => begins('Annual report')(paper) && paper.year === year) &&
        // Said not to be needed.
        !(name === 'Nominations' && year === 2023),
    );
    return [...ofMeetings, ...ofYears.map((year) => `Annual report ${year}`)].map((gap) => `${name}: ${gap}`);
  });
}

function tenantGaps(): string[] {
  const names = [...new Set(papers.filter((paper) => paper.series === 'Berth tenants').map((paper) => paper.dossier))];
  return names.flatMap((name, index) => {
    const started = detailsFor('Berth tenants', { name, reference: null }, index)['Berthed since'] ?? '';
    const all = of('Berth tenants', name);
    const recent = all.some(
      (paper) => paper.folder === 'Insurance' && paper.draft.written.toISOString().slice(0, 10) >= later(today, -400),
    );
    return [
      ...(all.some(begins('Berth lease')) || !overdue(later(started, 30)) ? [] : [`${name}: Lease`]),
      ...(recent || !overdue(later(started, 60)) ? [] : [`${name}: Insurance certificate of the last 400 days`]),
    ];
  });
}

function workGaps(): string[] {
  return works.flatMap((job, index) => {
    const began = detailsFor('Works', job, index)['Began'] ?? '';
    const signed = of('Works', job.name).some((paper) => paper.folder === 'Contract' && begins('Contract,')(paper));
    return [
      ...(signed || !overdue(later(began, 180)) ? [] : [`${job.name}: Contract`]),
      ...(overdue(later(began, 900)) ? [`${job.name}: Completion certificate`] : []),
    ];
  });
}

beforeAll(async () => {
  await emptyLibrary();
  await buildDemo(() => undefined, { asText: ['Board & committees', 'Berth tenants', 'Works'] });
});
afterAll(dropLibrary);

async function who(name: string): Promise<Actor> {
  const [row] = await db().select().from(person).where(eq(person.name, name));
  if (!row) throw new Error(`${name} is not there`);
  return { personId: row.id, name: row.name, email: row.email, keeper: row.keeper };
}

it('are those of the list, for the keeper', async () => {
  const maren = await who(keeper.name);
  const { gaps } = await atMoment(storyEnds, () => gapsOf(maren, { placeId: null }));
  const told = gaps.map(
    (gap) =>
      `${gap.dossier}: ${gap.name}${gap.meeting ? ` ${gap.meeting.day}` : gap.startYear ? ` ${gap.startYear}` : ''}`,
  );
  const expected = [...boardGaps(), ...tenantGaps(), ...workGaps()];
  expect(told.sort()).toEqual(expected.sort());
  expect(told.length).toBeGreaterThan(15);
  // The racks count the same.
  let counted = 0;
  for (const series of await listSeries(maren)) {
    const rack = await atMoment(storyEnds, () => openRack(maren, { seriesId: series.id }));
    counted += rack.rows.reduce((sum, row) => sum + row.gaps, 0);
    const inDossiers = rack.rows.reduce((sum, row) => sum + row.whole.papers, 0);
    // What is common to all tenants is the series' own: counted once, and in none of the rows.
    const common = series.name === 'Berth tenants' ? tenantForms(storyEnds).length : 0;
    expect(inDossiers + common).toBe(series.paperCount);
  }
  expect(counted).toBe(told.length);
});

it('are, for the harbour master, those of the two committees, the tenants and the works that are open to her', async () => {
  const petra = await who('Petra Lindqvist-Hale');
  const { gaps } = await atMoment(storyEnds, () => gapsOf(petra, { placeId: null }));
  const hers = boardGaps().filter((gap) => /^(?:Navigation & safety|Works & dredging): /u.test(gap));
  expect(gaps).toHaveLength(hers.length + tenantGaps().length + workGaps().length);
  expect(gaps.filter((gap) => gap.series === 'Board & committees')).toHaveLength(hers.length);
});
