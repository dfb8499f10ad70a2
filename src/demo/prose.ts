import type { Chance } from '../core/chance/chance';

/** Sentences of the trade, with `{…}` parts filled from the lists below. */
const sentences: readonly string[] = [
  'The harbour master reported {count} movements in the quarter, {less} than in the same months of last year.',
  'The {where} was inspected on {day}; the {part} shows wear and is to be renewed before the winter.',
  'Members noted that the conservancy dues had been reviewed and that the new scale takes effect on {day}.',
  'The dredging campaign removed {count} cubic metres from {where} and was completed within the licence.',
  'It was resolved that the tender for the {part} be awarded, subject to the insurance certificate being produced.',
  'The clerk was asked to write to the oyster growers about the buoyage at {where}.',
  'The auditor had no further points on {part}; the management letter was received on {day}.',
  'A near miss between the ferry and a visiting yacht off {where} was reported and its lessons were recorded.',
  'The tenant shall keep the {part} in good repair and give the Trust notice of any damage within seven days.',
  'Payment of {money} falls due on {day} and is to be made to the Trust’s account with the reference given.',
  'The Trust’s engineer recommends that the {part} at {where} be lifted and surveyed before the season.',
  'The commissioners thanked the volunteers who cleared {where} after the February gale.',
  'The budget for the year stands at {money}, of which {less} has been committed.',
  'Public liability cover of not less than five million is required for any event held at {where}.',
  'The tide gauge at {where} was calibrated on {day} and read within two centimetres of the standard.',
  'The policy is to be looked at again within two years, or sooner where the law changes.',
  'Wash from passing craft has loosened the {part}; a temporary speed limit was posted on {day}.',
  'No declarations of interest were made, save by Mr Blackwood in the matter of the {part}.',
  'The slipway fees brought in {money}, a little under the estimate, the summer having been wet.',
  'Ice on the {where} walkway led to two falls; grit is now kept in the store by the gate.',
];

const parts: Readonly<Record<string, readonly string[]>> = {
  where: [
    'the Visitor Pontoon',
    'Marsh Quay',
    'Skerrow Steps',
    'the North Bar',
    'Lantern Wharf',
    'the Boat Park',
    'Cockle Hard',
    'the Ferry Stage',
  ],
  part: [
    'fender piles',
    'access bridge',
    'mooring chain',
    'navigation lights',
    'quay ladder',
    'fuel berth',
    'sail loft lease',
    'breakwater toe',
    'crane rail',
  ],
  less: ['a tenth fewer', 'slightly more', 'nearly a third more', 'about the same number', 'half as many again'],
  money: ['£1,985', '£2,140', '£12,400', '£740.50', '£38,250', '£6,012', '£91,700'],
};

const months = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/** Writes plausible paragraphs about harbour matters. */
export class Prose {
  readonly #chance: Chance;

  constructor(chance: Chance) {
    this.#chance = chance;
  }

  sentence(): string {
    return this.#chance.pick(sentences).replace(/\{(?<part>\w+)\}/gu, (_whole, part: string) => {
      if (part === 'count') return String(this.#chance.whole(12, 980));
      if (part === 'day') return `${this.#chance.whole(1, 28)} ${this.#chance.pick(months)}`;
      return this.#chance.pick(parts[part] ?? ['']);
    });
  }

  paragraph(least = 2, most = 5): string {
    return Array.from({ length: this.#chance.whole(least, most) }, () => this.sentence()).join(' ');
  }

  paragraphs(least: number, most: number): string[] {
    return Array.from({ length: this.#chance.whole(least, most) }, () => this.paragraph());
  }

  /** Rows of a money table: what, and how much in pounds. */
  figures(rows: number): { what: string; pounds: number }[] {
    const kinds = [
      'Conservancy dues',
      'Pilotage',
      'Berth rents',
      'Slipway fees',
      'Ferry landing',
      'Dredging',
      'Fender piles',
      'Insurance',
      'Wages',
      'Survey',
      'Electricity',
      'Navigation lights',
      'Legal advice',
      'Boat hire',
    ];
    return this.#chance.some(kinds, rows).map((what) => ({ what, pounds: this.#chance.whole(4000, 9_400_000) / 100 }));
  }
}
