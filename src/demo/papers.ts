import { TZDate } from '@date-fns/tz';
import { format } from 'date-fns';
import { makeDocx, makeOdt, makePptx, makeXlsx } from './makers/office';
import type { Draft, Maker } from './makers/paper';
import { makePdf } from './makers/pdf';
import { makeHeic, makePicture, makePictureAs, makeScan } from './makers/pictures';
import { makeZip } from './makers/archive';
import { inFormat } from './makers/otherFormats';
import { makeCsv, makeMail, makeMailWithPapers, makeMarkdown, makeText } from './makers/text';
import { makeHtml, makeRtf } from './makers/web';
import { committees, filingYears, governing, suppliers, tenants, works } from './layout';
import { Prose } from './prose';
import type { Chance } from '../core/chance/chance';

/** The makers by the ending of what they make. */
export const makers: Readonly<Record<string, Maker>> = {
  pdf: makePdf,
  docx: makeDocx,
  xlsx: makeXlsx,
  pptx: makePptx,
  odt: makeOdt,
  tif: makeScan,
  png: makePicture,
  eml: makeMail,
  txt: makeText,
  csv: makeCsv,
  html: makeHtml,
  rtf: makeRtf,
  zip: makeZip,
  md: makeMarkdown,
  jpg: makePictureAs('jpeg'),
  webp: makePictureAs('webp'),
  gif: makePictureAs('gif'),
  heic: makeHeic,
  doc: inFormat(makeDocx, 'docx', 'doc'),
  xls: inFormat(makeXlsx, 'xlsx', 'xls'),
  ppt: inFormat(makePptx, 'pptx', 'ppt'),
  ods: inFormat(makeXlsx, 'xlsx', 'ods'),
  odp: inFormat(makePptx, 'pptx', 'odp'),
  'with-papers.eml': makeMailWithPapers,
};

/** What is filed of each kind that the rest of the demo does not have: title, ending, folder of the works' dossier. */
const otherKinds: readonly (readonly [title: string, ending: string, folder: string])[] = [
  ['Quay wall survey of 2008', 'doc', 'Contract'],
  ['Estimate of 2008', 'xls', 'Cost'],
  ['Talk to the oyster growers', 'ppt', 'Progress'],
  ['Tonnage of dredged silt', 'ods', 'Cost'],
  ['Open day at the slipway', 'odp', 'Progress'],
  ['Letter to the contractor', 'rtf', 'Contract'],
  ['Notice to mariners', 'html', 'Progress'],
  ['What to ask the surveyor', 'md', 'Progress'],
  ['Tender papers as sent', 'zip', 'Contract'],
  ['Drawings and prices for your comments', 'with-papers.eml', 'Contract'],
  ['Slipway at low water', 'jpg', 'Photographs'],
  ['Crane from the ferry', 'webp', 'Photographs'],
  ['Beacon at dusk', 'gif', 'Photographs'],
  ['Winch house', 'heic', 'Photographs'],
];

/** One paper to be made and filed: by whom, when, in which folder of which dossier. */
export interface PaperPlan {
  readonly series: string;
  readonly dossier: string;
  /** The filing year's place to file in; null for a folder that belongs to no year. */
  readonly year: number | null;
  readonly folder: string | null;
  readonly fileName: string;
  readonly ending: string;
  readonly by: string;
  readonly draft: Draft;
  /** Another version of the paper of this name, rather than a paper of its own. */
  readonly asVersion: boolean;
}

const day = (year: number, month: number, date: number): Date => new Date(Date.UTC(year, month - 1, date));
const shortDay = (on: Date): string => format(new TZDate(on.getTime(), 'UTC'), 'd MMM');

/** All papers up to `until`, in the order in which they were filed: the same list for the same seed. */
export function planPapers(chance: Chance, until: Date): PaperPlan[] {
  const planner = new Planner(chance);
  planner.committees();
  planner.tenants();
  planner.suppliers();
  planner.works();
  planner.governing();
  planner.otherKinds();
  return planner.plans
    .filter((plan) => plan.draft.written < until)
    .sort((a, b) => a.draft.written.getTime() - b.draft.written.getTime());
}

/** The folder that all tenants' dossiers have in common, and the forms kept in it. */
export const formsFolder = 'Forms for tenants';
const forms: Readonly<Record<string, readonly string[]>> = {
  'Application for a berth': [
    'To be completed by the owner and returned to the tenant liaison with proof of ownership.',
    'Name of vessel, length overall, beam and draught are to be given in metres.',
    'A certificate of public liability insurance must be enclosed.',
  ],
  'Declaration of insurance': [
    'Public liability cover of not less than five million is required of every tenant.',
    'State the insurer, the number of the policy and the day on which cover ends.',
  ],
  'Notice of leaving a berth': [
    'Three months’ notice is required. State the day on which the berth will be clear.',
    'The deposit is returned once the berth has been inspected.',
  ],
};

/** The forms of the tenants' common folder, as they were renewed for the coming year. */
export const tenantForms = (written: Date): PaperPlan[] =>
  Object.entries(forms).map(([title, paragraphs]) => ({
    series: 'Berth tenants',
    dossier: formsFolder,
    year: null,
    folder: null,
    fileName: `${title}.docx`,
    ending: 'docx',
    by: 'Oona Marsh',
    draft: { title, subtitle: 'Saltmarrow Harbour Trust', written, author: 'Oona Marsh', paragraphs, figures: [] },
    asVersion: false,
  }));

type Where = Pick<PaperPlan, 'series' | 'dossier' | 'year' | 'folder' | 'by'>;

class Planner {
  readonly plans: PaperPlan[] = [];
  readonly #chance: Chance;
  readonly #prose: Prose;

  constructor(chance: Chance) {
    this.#chance = chance;
    this.#prose = new Prose(chance);
  }

  #add(
    where: Where,
    title: string,
    ending: string,
    written: Date,
    more: { subtitle?: string; fileName?: string; asVersion?: boolean; long?: boolean } = {},
  ): void {
    const paragraphs = this.#prose.paragraphs(more.long ? 24 : 3, more.long ? 60 : 8);
    const draft = {
      title,
      subtitle: more.subtitle ?? where.dossier,
      written,
      author: where.by,
      paragraphs,
      figures: this.#prose.figures(6),
    };
    this.plans.push({
      ...where,
      fileName: `${more.fileName ?? title}.${ending.split('.').at(-1) ?? ending}`,
      ending,
      draft,
      asVersion: more.asVersion ?? false,
    });
  }

  committees(): void {
    for (const { name, meetingMonths } of committees) {
      for (const year of filingYears) {
        for (const month of meetingMonths) this.#meeting(name, year, month);
        if (this.#chance.happens(0.8))
          this.#add(
            { series: 'Board & committees', dossier: name, year, folder: null, by: 'Maren Tolliver' },
            `Annual report of ${name}`,
            'docx',
            day(year + 1, 5, this.#chance.whole(3, 27)),
          );
        if (name === 'Finance & audit') {
          const where = {
            series: 'Board & committees',
            dossier: name,
            year,
            folder: 'Audit evidence',
            by: 'Tobias Fenn',
          };
          this.#add(where, `External audit findings ${year - 1}–${String(year % 100)}`, 'pdf', day(year, 7, 2), {
            subtitle: 'Pell & Askew LLP',
            long: true,
          });
          this.#add(where, 'Bank mandate, signed copy', 'tif', day(year, 6, 11));
        }
      }
    }
  }

  #meeting(dossier: string, year: number, month: number): void {
    const chance = this.#chance;
    const on = day(month < 4 ? year + 1 : year, month, chance.whole(9, 21));
    const where: Where = {
      series: 'Board & committees',
      dossier,
      year,
      folder: `${shortDay(on)} meeting`,
      by: 'Maren Tolliver',
    };
    const before = new Date(on.getTime() - 7 * 86_400_000);
    this.#add(where, `Agenda, ${shortDay(on)}`, chance.pick(['docx', 'pdf']), before);
    const topics = [
      'Dues review: pilotage and conservancy',
      'Harbour master’s report',
      'Tender report: fender piles',
      'Risk register',
      'Oyster growers’ representations',
      'Ferry landing terms',
      'Insurance renewal',
      'Dredging licence: conditions',
    ];
    for (const topic of chance.some(topics, chance.whole(1, 3))) {
      this.#add(where, topic, chance.pick(['pdf', 'pdf', 'odt', 'pptx']), before, { long: chance.happens(0.15) });
    }
    if (dossier === 'Finance & audit') this.#add(where, 'Management accounts', 'xlsx', before);
    // One in nine meetings has no minutes: that is what the gaps are about.
    if (chance.happens(0.11)) return;
    const after = new Date(on.getTime() + 9 * 86_400_000);
    const minutes = `Minutes of ${shortDay(on)}`;
    this.#add(where, chance.happens(0.12) ? `${minutes} (draft ${chance.whole(2, 4)})` : minutes, 'docx', after);
    if (chance.happens(0.2))
      this.#add(where, minutes, 'docx', new Date(after.getTime() + 5 * 86_400_000), { asVersion: true });
    if (chance.happens(0.85))
      this.#add(where, `${minutes}, signed`, 'tif', new Date(after.getTime() + 40 * 86_400_000));
  }

  tenants(): void {
    const chance = this.#chance;
    for (const tenant of tenants(chance)) {
      const at = (year: number | null, folder: string | null): Where => ({
        series: 'Berth tenants',
        dossier: tenant,
        year,
        folder,
        by: 'Oona Marsh',
      });
      const since = chance.pick(filingYears);
      this.#add(
        at(null, 'Lease'),
        `Berth lease, ${tenant}`,
        'pdf',
        day(since, chance.whole(4, 12), chance.whole(1, 28)),
      );
      for (const year of filingYears.filter((each) => each >= since)) {
        if (chance.happens(0.8))
          this.#add(
            at(null, 'Insurance'),
            `Public liability certificate ${year}, ${tenant}`,
            'pdf',
            day(year, 4, chance.whole(1, 28)),
          );
        if (chance.happens(0.6))
          this.#add(
            at(year, null),
            chance.pick(['Rent review', 'Mooring complaint', 'Pontoon access', 'Electricity recharge']),
            chance.pick(['eml', 'eml', 'txt']),
            day(year, chance.whole(5, 12), chance.whole(1, 28)),
          );
      }
      if (chance.happens(0.25))
        this.#add(at(since, null), 'Berth plan, marked up', 'png', day(since, 10, chance.whole(1, 28)));
    }
  }

  suppliers(): void {
    const chance = this.#chance;
    for (const supplier of suppliers(chance)) {
      for (const year of filingYears) {
        const where: Where = { series: 'Suppliers', dossier: supplier, year, folder: null, by: 'Tobias Fenn' };
        for (let number = chance.whole(0, 2); number > 0; number -= 1) {
          const invoice = String(chance.whole(11, 9899)).padStart(4, '0');
          this.#add(where, `Invoice ${invoice}`, 'pdf', day(year, chance.whole(4, 12), chance.whole(1, 28)), {
            fileName: `INVOICE_${invoice}`,
          });
        }
        if (chance.happens(0.25)) this.#add(where, `Statement ${year}`, 'csv', day(year, 12, chance.whole(1, 28)));
        if (chance.happens(0.15))
          this.#add(where, 'Query on your last invoice', 'eml', day(year, chance.whole(5, 11), chance.whole(1, 28)));
      }
    }
  }

  works(): void {
    const chance = this.#chance;
    for (const { name, reference } of works) {
      const year = 2000 + Number(reference?.slice(2, 4));
      const at = (folder: string): Where => ({
        series: 'Works',
        dossier: name,
        year: null,
        folder,
        by: 'Anaïs O’Dowd',
      });
      this.#add(at('Contract'), `Specification, ${name}`, 'odt', day(year, 5, chance.whole(1, 28)), { long: true });
      this.#add(at('Contract'), `Contract, ${name}`, 'pdf', day(year, 7, chance.whole(1, 28)), { long: true });
      this.#add(at('Contract'), 'Contractor’s insurance check', 'docx', day(year, 7, chance.whole(1, 28)));
      this.#add(at('Cost'), `Cost plan, ${name}`, 'xlsx', day(year, 6, chance.whole(1, 28)));
      for (const number of [1, 2, 3])
        this.#add(at('Photographs'), `${name}, photograph ${number}`, 'png', day(year, 9, 4 + number));
      this.#add(at('Progress'), 'Progress meeting notes', 'txt', day(year, 9, chance.whole(10, 28)));
      this.#add(at('Progress'), 'Site briefing', 'pptx', day(year, 8, chance.whole(1, 28)));
    }
  }

  otherKinds(): void {
    otherKinds.forEach(([title, ending, folder], index) => {
      const dossier = works.at(-2)?.name ?? '';
      const where = { series: 'Works', dossier, year: null, folder, by: 'Anaïs O’Dowd' };
      this.#add(where, title, ending, day(2026, 6, 2 + index));
    });
  }

  governing(): void {
    const chance = this.#chance;
    for (const { name, papers } of governing) {
      for (const paper of papers) {
        const where: Where = {
          series: 'Governing papers',
          dossier: name,
          year: null,
          folder: null,
          by: 'Maren Tolliver',
        };
        this.#add(
          where,
          paper,
          chance.pick(['docx', 'odt', 'pdf']),
          day(chance.pick([2023, 2024]), chance.whole(4, 12), chance.whole(1, 28)),
        );
        if (chance.happens(0.4))
          this.#add(where, paper, 'pdf', day(2025, chance.whole(4, 12), chance.whole(1, 28)), { asVersion: true });
      }
    }
  }
}
