/**
 * The gaps of the demo library, worked out once more from nothing but the list of files that its script makes: no plan, no
 * conditions, no tally, only titles, folders and days.
 */
import { demoPapers, storyEnds } from '@/demo/build';
import { committees, detailsFor, filingYears, works } from '@/demo/layout';
import type { PaperPlan } from '@/demo/papers';

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

/** What is missing in the committees, each as `Dossier: what`. */
export function boardGaps(): string[] {
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

/** What is missing of the berth tenants, each as `Dossier: what`. */
export function tenantGaps(): string[] {
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

/** What is missing of the works, each as `Dossier: what`. */
export function workGaps(): string[] {
  return works.flatMap((job, index) => {
    const began = detailsFor('Works', job, index)['Began'] ?? '';
    const signed = of('Works', job.name).some((paper) => paper.folder === 'Contract' && begins('Contract,')(paper));
    return [
      ...(signed || !overdue(later(began, 180)) ? [] : [`${job.name}: Contract`]),
      ...(overdue(later(began, 900)) ? [`${job.name}: Completion certificate`] : []),
    ];
  });
}
