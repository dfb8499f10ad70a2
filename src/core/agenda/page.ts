import { escapedMarkup as escaped } from '../text/markup';
import { itemKindWords, type ItemKind, type Numbering } from './model';
import { depthsOf, type Standing } from '../outline/outline';
import { numbersOf } from './numbering';
import { clockOf, timesOf } from './timing';

/** An item as the printed agenda has it. */
export interface PageItem extends Standing {
  /** Null: confidential, so that only its number is printed. */
  readonly title: string | null;
  readonly presenter: string;
  readonly minutes: number | null;
  readonly kind: ItemKind | null;
  readonly notes: string;
  readonly papers: readonly string[];
}

/** All that a printed agenda says. */
export interface AgendaPage {
  readonly library: string;
  readonly dossier: string;
  readonly meeting: string;
  /** In words: "Tuesday 14 July 2026". */
  readonly day: string;
  readonly venue: string;
  /** Minutes since midnight; null where no time is said, and then items have none. */
  readonly startsAt: number | null;
  readonly numbering: Numbering;
  readonly items: readonly PageItem[];
  /** Actions of earlier meetings that are open, a line each. */
  readonly openActions: readonly string[];
}

/** What an item is called whose title only some may know. */
export const confidentialTitle = 'Confidential item';

/** What actions of earlier meetings are listed under. Common practice, no source. */
export const openActionsTitle = 'Actions from earlier meetings';

const face = 'font-family: Liberation Sans, sans-serif';

/** The agenda as a web page, to be made a Word document and a PDF of. */
export function agendaPage(page: AgendaPage): string {
  const numbers = numbersOf(page.items, page.numbering);
  const depths = depthsOf(page.items);
  const timed = page.startsAt === null ? null : timesOf(page.items, page.startsAt);
  const row = (item: PageItem, at: number): string => {
    const about = [item.kind === null ? '' : itemKindWords[item.kind], item.presenter].filter((each) => each !== '');
    const title = escaped(item.title ?? confidentialTitle);
    const lines = [
      depths[at] === 1 ? `<b>${title}</b>` : title,
      ...(about.length > 0 ? [`<i>${escaped(about.join(' · '))}</i>`] : []),
      ...item.notes
        .split('\n')
        .filter((each) => each.trim() !== '')
        .map(escaped),
      ...item.papers.map((each) => `Paper: ${escaped(each)}`),
    ];
    const time = timed === null ? '' : clockOf(timed.times[at]?.from ?? 0);
    return `<tr><td valign="top" width="12%">${time}</td><td valign="top" width="10%">${escaped(numbers[at] ?? '')}</td><td valign="top">${lines.join('<br>')}</td></tr>`;
  };
  const when = [page.day, page.startsAt === null ? '' : clockOf(page.startsAt), page.venue].filter(
    (each) => each !== '',
  );
  return `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Agenda</title></head>
<body style="${face}; font-size: 11pt">
<p>${escaped(page.library)}</p>
<h1 style="${face}">${escaped(page.dossier)}: ${escaped(page.meeting)}</h1>
<p>${escaped(when.join(', '))}</p>
<h2 style="${face}">Agenda</h2>
<table width="100%" cellpadding="4">
${page.items.map(row).join('\n')}
</table>
${page.openActions.length === 0 ? '' : `<h2 style="${face}">${openActionsTitle}</h2>\n<ul>${page.openActions.map((each) => `<li>${escaped(each)}</li>`).join('\n')}</ul>`}
${timed === null || page.items.length === 0 ? '' : `<p>Ends at ${clockOf(timed.endsAt)}.</p>`}
</body></html>`;
}
