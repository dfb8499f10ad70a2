import { sql } from 'drizzle-orm';
import { owingFrom, storedOwing, type Owing } from '@/core/owed/owing';
import type { Reader } from '../db/client';

/**
 * What says what papers are owed, as one JSON value, for whoever reads the database: the tally by its own connection, the
 * use-cases by theirs. `$1`: the papers (uuid[]) whose own cycles and last reviews are wanted; null: of all.
 */
export const owingText = `
  select json_build_object(
    'reviewRules', (select coalesce(json_agg(json_build_object('id', id, 'placeId', place_id, 'documentId', document_id,
        'columnId', column_id, 'termId', term_id, 'never', never, 'everyMonths', every_months, 'rhythm', rhythm,
        'firstOn', first_on, 'warnDays', warn_days, 'responsibleId', responsible_id) order by id), '[]')
      from review_rule where document_id is null or $1::uuid[] is null or document_id = any($1::uuid[])),
    'reviewed', (select coalesce(json_agg(json_build_array(document_id, day, outcome)), '[]')
      from (select distinct on (document_id) document_id, day, outcome from review
            where $1::uuid[] is null or document_id = any($1::uuid[])
            order by document_id, day desc, done_at desc) as last),
    'classes', (select coalesce(json_agg(json_build_object('id', id, 'name', name, 'authority', authority, 'start', starts_from,
        'columnId', column_id, 'months', months, 'end', ends)), '[]') from retention_class),
    'retentionRules', (select coalesce(json_agg(json_build_object('id', id, 'placeId', place_id, 'columnId', column_id,
        'termId', term_id, 'classId', class_id) order by id), '[]') from retention_rule),
    'broader', (select coalesce(json_object_agg(id, parent_id), '{}') from term
      where parent_id is not null
        and (exists (select from review_rule where term_id is not null) or exists (select from retention_rule where term_id is not null)))
  ) as owing`;

/** What says what papers are owed. @param ids the papers whose own cycles and last reviews are wanted */
export async function owingOf(reader: Reader, ids: readonly string[]): Promise<Owing> {
  const parts = owingText.split('$1').map((part) => sql.raw(part));
  const { rows } = await reader.execute<{ owing: unknown }>(sql.join(parts, sql`${sql.param([...ids])}`));
  return owingFrom(storedOwing.parse(rows[0]?.owing));
}
