import { eq } from 'drizzle-orm';
import { writeDay } from '@/core/calendar/typedDay';
import { currencyDecimals } from '@/core/columns/currency';
import { writeDecimal } from '@/core/columns/decimal';
import { asText } from '@/core/columns/format';
import type { Column, Value } from '@/core/columns/model';
import type { ArrivalField } from '@/core/intake/contract';
import { proposedValues, type Proposed } from '@/core/intake/fields';
import { asks } from '../acts/operation';
import { allColumns, allLists, asNames, lexiconsOf, type Lexicons } from '../columns/read';
import { db } from '../db/client';
import { place } from '../db/schema';
import { placeFor } from '../gate/held';
import { foundArrival } from './read';

/** What would be filled in at a place that takes an arrival: what is proposed for its columns, and what has to be said there. */
export const arrivalFields = asks('arrival.fields', async (actor, { arrivalId, placeId }) => {
  const { proposal } = await foundArrival(actor, arrivalId);
  const { lineage } = await placeFor(db(), actor, placeId, 'add');
  const [given] = await db().select({ fixed: place.fixedValues }).from(place).where(eq(place.id, placeId));
  const fixed = given?.fixed ?? {};
  const columns = (await allColumns(db())).filter(
    ({ id, retired, placeId: at }) => !retired && lineage.includes(at) && !(id in fixed),
  );
  const lexicons = lexiconsOf(await allLists(db()));
  return proposal.parts.map(({ attachment, title, stated = [] }) => {
    const proposed = proposedValues(columns, stated, title, (list) => lexicons.get(list)?.terms ?? []);
    const fields = columns.flatMap((column) => {
      const each = proposed.find(({ columnId }) => columnId === column.id);
      return each || column.required ? [fieldOf(column, each, lexicons)] : [];
    });
    return { attachment, fields };
  });
});

function fieldOf(column: Column, proposed: Proposed | undefined, lexicons: Lexicons): ArrivalField {
  const { id, name, required, type, listId, defaultValue } = column;
  const lexicon = listId === null ? undefined : lexicons.get(listId);
  const { stated } = proposed ?? {};
  return {
    columnId: id,
    name,
    required,
    text: typedText(column, proposed?.value ?? defaultValue, lexicons),
    choices:
      type === 'choice' && lexicon
        ? lexicon
            .inOrder()
            .flatMap(({ term }) => (term.retired ? [] : [asText(column, term.id, asNames(lexicons, {}))]))
        : null,
    why: stated ? whyOf(stated) : (proposed?.why ?? null),
    sure: stated?.sure ?? null,
    at: stated ? { page: stated.page, spot: stated.spot } : null,
  };
}

/** A value as somebody would type it, and easily reads. */
function typedText(column: Column, value: Value | null, lexicons: Lexicons): string {
  if (value === null) return '';
  if (column.type === 'amount') return writeDecimal(Number(value), currencyDecimals(column.currency));
  return column.type === 'date' ? writeDay(String(value)) : asText(column, value, asNames(lexicons, {}));
}

const whyOf = ({ by, words, page, isData }: NonNullable<Proposed['stated']>): string =>
  isData
    ? 'From the data of the bill.'
    : `“${by === null ? '' : `${by} `}${words}”${page === 1 ? '' : ` on page ${page}`}.`;
