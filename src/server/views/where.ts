import { and, sql, type SQL } from 'drizzle-orm';
import type { Column } from '@/core/columns/model';
import { refuse } from '@/core/errors/refusal';
import type { Conditions } from '@/core/views/conditions';
import type { Actor } from '../access/actor';
import { labelIsKnown } from '../access/visible';
import { document, documentLabel, label } from '../db/schema';

/** Papers that meet all conditions. A condition on what is no column in force fails closed, with a word. */
export function meetsAll(actor: Actor, conditions: Conditions, columns: readonly Column[]): SQL {
  const each = conditions.map((condition) => {
    if (condition.anyOf.length === 0) return sql`true`;
    if (condition.of === 'label') return bearsAny(actor, condition.anyOf);
    const column = columns.find((one) => one.id === condition.of);
    if (!column || column.retired)
      return refuse('gone', 'A condition speaks of a column that is not in use here. Take the condition away.');
    const asked = condition.anyOf.map((value) => {
      if (value === null) return sql`not ${document.shownValues} ? ${column.id}`;
      const kept = column.type === 'choices' ? [value] : value;
      return sql`${document.shownValues} @> ${JSON.stringify({ [column.id]: kept })}::jsonb`;
    });
    return sql`(${sql.join(asked, sql` or `)})`;
  });
  return and(sql`true`, ...each) ?? sql`false`;
}

function bearsAny(actor: Actor, ids: readonly unknown[]): SQL {
  const borne = (more: SQL) => sql`exists (
    select from ${documentLabel} join ${label} on ${label.id} = ${documentLabel.labelId}
    where ${documentLabel.documentId} = ${document.id} and ${labelIsKnown(actor)} and ${more})`;
  const named = ids.filter((id): id is string => typeof id === 'string');
  const either = [
    ...(named.length > 0 ? [borne(sql`${label.id}::text = any(${sql.param(named)}::text[])`)] : []),
    ...(ids.includes(null) ? [sql`not ${borne(sql`true`)}`] : []),
  ];
  return either.length === 0 ? sql`false` : sql`(${sql.join(either, sql` or `)})`;
}

/** What a sort by a column compares, and the type its key has in SQL. Papers without a value come last, either way. */
export function columnKey(column: Column, up: boolean): { readonly by: SQL; readonly type: string } {
  const raw = sql`${document.shownValues} ->> ${column.id}`;
  const named = (table: 'person' | 'place' | 'document', name: string): SQL =>
    sql`(select named.${sql.raw(name)}::text from ${sql.raw(table)} as named where named.id::text = ${raw})`;
  const last = up ? sql`U&'\\FFFF'` : sql`''`;
  const text = (of: SQL) => ({ by: sql`coalesce(${of}, ${last}) collate "natural"`, type: 'text' });
  switch (column.type) {
    case 'number':
    case 'amount':
      return { by: sql`coalesce((${raw})::float8, ${up ? 'Infinity' : '-Infinity'}::float8)`, type: 'float8' };
    case 'choice':
    case 'choices': {
      const first = column.type === 'choice' ? raw : sql`${document.shownValues} -> ${column.id} ->> 0`;
      return {
        by: sql`coalesce((select listed.position from term as listed where listed.id::text = ${first}), ${up ? 2147483647 : -1}::integer)`,
        type: 'integer',
      };
    }
    case 'person':
      return text(named('person', 'name'));
    case 'dossier':
      return text(named('place', 'name'));
    case 'document':
      return text(named('document', 'title'));
    default:
      return text(raw);
  }
}
