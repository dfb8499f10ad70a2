import { bitOf } from '@/core/access/capability';
import { and, sql, type SQL } from 'drizzle-orm';
import type { Column } from '@/core/columns/model';
import { orRefuse } from '@/core/errors/refusal';
import { searchKey } from '@/core/text/fold';
import { asksNothing, isBlock, type Condition, type Conditions, type Part } from '@/core/views/conditions';
import { isoDay, periodDays, spanDays, type Days } from '@/core/calendar/period';
import { owedProperties } from '@/core/views/builtIns';
import { isOwnWay } from '@/core/views/own';
import { checkConditions, senseOf } from '@/core/views/property';
import type { Actor } from '../gate/actor';
import { labelIsKnown, ownOf, paperAllows, placeIsKnown, readersAreTold } from '../gate/visible';
import { escapeLike } from '../db/like';
import { standsIn, standYear } from '../known/standing';
import { ownPapersSql } from '../tally/own';
import { builtInSql, isSqlProperty } from './builtIns';
import { document, documentLabel, filing, label, membership, person, place, scopeEntry } from '../db/schema';

/** What relative conditions start from. Days are `DayNumber`s in the library's time zone. */
export interface Moment {
  readonly today: number;
  readonly yearStartMonth: number;
  readonly timeZone: string;
  readonly lookedAt: Date | null;
}

/**
 * Papers that meet all conditions, as SQL over `document` joined to its home `place`. Used while the tally, which is
 * faster, is being filled, and as its reference in tests. Refuses unknown conditions. Compares texts other than titles
 * without case and accents, by PostgreSQL's rules.
 */
export function meetsAll(actor: Actor, conditions: Conditions, columns: readonly Column[], moment: Moment): SQL {
  orRefuse(checkConditions(conditions, columns));
  return and(sql`true`, ...conditions.flatMap((part) => meetsPart({ actor, columns, moment }, part))) ?? sql`false`;
}

interface Context {
  readonly actor: Actor;
  readonly columns: readonly Column[];
  readonly moment: Moment;
}

/** Empty for a condition that is not filled in. */
function meetsPart(context: Context, part: Part): SQL[] {
  if (!isBlock(part)) return asksNothing(part) ? [] : [sql`coalesce(${meetsOne(context, part)}, false)`];
  const parts = part.parts.flatMap((each) => meetsPart(context, each));
  if (parts.length === 0) return [];
  if (part.how === 'all') return [sql`(${sql.join(parts, sql` and `)})`];
  const any = sql`(${sql.join(parts, sql` or `)})`;
  return [part.how === 'any' ? any : sql`not ${any}`];
}

function meetsOne(context: Context, condition: Condition): SQL {
  const { of } = condition;
  if (of === 'label') return meetsLabel(context.actor, condition);
  if (of === 'place')
    return standsIn(
      context.actor,
      sql`${place.lineage} && ${sql.param(uuids('anyOf' in condition ? condition.anyOf : []))}::uuid[]`,
    );
  if (of === 'openTo') return isOpenTo(context.actor, condition);
  if (of === 'own') return isOwn(context.actor, condition);
  // Only the tally knows what words find and what rules come to; until it is filled nothing is told.
  if (of === 'find' || owedProperties.includes(of)) return sql`false`;
  const column = context.columns.find((each) => each.id === of);
  const sense = senseOf(of, context.columns);
  const value = column
    ? inForce(column)
    : of === 'year'
      ? standYear(context.actor)
      : isSqlProperty(of)
        ? builtInSql[of].value
        : sql`null`;
  switch (sense) {
    case 'day':
      return meetsDay(context, sql`(${value})::date`, condition);
    case 'moment':
      if ('span' in condition && 'is' in condition.span && condition.span.is === 'since-look') {
        const { lookedAt } = context.moment;
        return lookedAt === null ? sql`true` : sql`${value} > ${lookedAt.toISOString()}::timestamptz`;
      }
      return meetsDay(context, sql`(${value} at time zone ${context.moment.timeZone}::text)::date`, condition);
    case 'number':
      return meetsNumber(sql`(${value})::float8`, condition);
    default:
      return column ? meetsColumn(context, column, condition) : meetsText(context, sql`${value}::text`, condition);
  }
}

/** A column's value as text where it is in force at the paper's home; else null. */
const inForce = (column: Column): SQL =>
  sql`(case when ${place.lineage} @> array[${column.placeId}::uuid] then ${document.shownValues} ->> ${column.id} end)`;

function meetsColumn(context: Context, column: Column, condition: Condition): SQL {
  const value = inForce(column);
  if ('anyOf' in condition) {
    const asked = condition.anyOf.map((each) => {
      if (each === null) return sql`${value} is null`;
      const kept = column.type === 'choices' ? [each] : each;
      return sql`(${value} is not null and ${document.shownValues} @> ${JSON.stringify({ [column.id]: kept })}::jsonb
        and ${isKnown(context.actor, column, each)})`;
    });
    return sql`(${sql.join(asked, sql` or `)})`;
  }
  return meetsText(context, value, condition);
}

/** The record a value refers to has to be one the caller may know of. */
function isKnown(actor: Actor, column: Column, value: unknown): SQL {
  if (column.type === 'dossier')
    return sql`exists (select from ${place} where ${place.id}::text = ${String(value)} and ${placeIsKnown(actor)})`;
  if (column.type === 'document')
    return sql`exists (select from ${document} where ${document.id}::text = ${String(value)} and ${paperAllows(actor, 'see')})`;
  return sql`true`;
}

/** Texts, picked values and people, all as text. */
function meetsText({ actor }: Context, value: SQL, condition: Condition): SQL {
  if ('filled' in condition) return condition.filled ? sql`${value} is not null` : sql`${value} is null`;
  if ('who' in condition) return sql`${value} in ${meant(actor, condition.who)}`;
  if ('text' in condition) {
    const words = escapeLike(searchKey(condition.words));
    const pattern = condition.text === 'starts' ? `${words}%` : `%${words}%`;
    const key =
      condition.of === 'title'
        ? sql`${document.searchKey}`
        : sql`lower(regexp_replace(normalize(${value}, NFKD), '[\u0300-\u036f]', '', 'g'))`;
    return sql`${key} like ${pattern}`;
  }
  if (!('anyOf' in condition)) return sql`false`;
  const named = condition.anyOf.filter((each) => each !== null).map(String);
  const some = sql`${value} = any(${sql.param(named)}::text[])`;
  return condition.anyOf.includes(null) ? sql`(${value} is null or ${some})` : some;
}

function meetsNumber(value: SQL, condition: Condition): SQL {
  if ('filled' in condition) return condition.filled ? sql`${value} is not null` : sql`${value} is null`;
  if ('from' in condition)
    return sql`${value} between ${condition.from ?? '-Infinity'}::float8 and ${condition.to ?? 'Infinity'}::float8`;
  if (!('anyOf' in condition)) return sql`false`;
  const numbers = condition.anyOf.filter((each) => typeof each === 'number');
  const some = sql`${value} = any(${sql.param(numbers)}::float8[])`;
  return condition.anyOf.includes(null) ? sql`(${value} is null or ${some})` : some;
}

function meetsDay({ moment }: Context, day: SQL, condition: Condition): SQL {
  const within = ({ from, to }: Days): SQL =>
    sql`${day} between ${from === null ? '-infinity' : isoDay(from)}::date and ${to === null ? 'infinity' : isoDay(to)}::date`;
  if ('filled' in condition) return condition.filled ? sql`${day} is not null` : sql`${day} is null`;
  if ('span' in condition) {
    const days = spanDays(condition.span, moment);
    return days === null ? sql`false` : within(days);
  }
  if (!('anyOf' in condition)) return sql`false`;
  const asked = condition.anyOf.map((key) => {
    if (key === null) return sql`${day} is null`;
    const days = periodDays(String(key), moment);
    return days === null ? sql`false` : within(days);
  });
  return sql`(${sql.join(asked, sql` or `)})`;
}

function meetsLabel(actor: Actor, condition: Condition): SQL {
  const borne = (more: SQL) => sql`exists (
    select from ${documentLabel} join ${label} on ${label.id} = ${documentLabel.labelId}
    where ${documentLabel.documentId} = ${document.id} and ${labelIsKnown(actor)} and ${more})`;
  if ('filled' in condition) return condition.filled ? borne(sql`true`) : sql`not ${borne(sql`true`)}`;
  if (!('anyOf' in condition)) return sql`false`;
  const named = condition.anyOf.filter((each) => each !== null).map(String);
  const some = borne(sql`${label.id}::text = any(${sql.param(named)}::text[])`);
  return condition.anyOf.includes(null) ? sql`(${some} or not ${borne(sql`true`)})` : some;
}

/**
 * Whether any of the people asked for may see the paper; keepers see all. For other people than the caller, only papers
 * that the caller manages match.
 */
function isOpenTo(actor: Actor, condition: Condition): SQL {
  const people =
    'who' in condition
      ? meant(actor, condition.who)
      : sql`(select unnest(${sql.param(uuids('anyOf' in condition ? condition.anyOf : []))}::uuid[])::text)`;
  return sql`exists (
    select from ${person} as reader where reader.id::text in ${people} and reader.active
      and (reader.id = ${actor.personId}::uuid or ${readersAreTold(actor)}) and (reader.keeper or exists (
      select from ${scopeEntry}
      where ${scopeEntry.personId} = reader.id and ${scopeEntry.capabilities} & ${bitOf('see')} <> 0 and (
        ${scopeEntry.scopeId} = coalesce(${document.scopeId}, ${place.scopeId})
        or ${document.scopeId} is null and ${scopeEntry.scopeId} in (
          select opened.scope_id from ${filing} as listed join ${place} as opened on opened.id = listed.place_id
          where listed.document_id = ${document.id} and listed.kind = 'opening')))))`;
}

/** Whether a paper is the caller's own in any of the ways asked for. Who looks as another is told nothing. */
function isOwn(actor: Actor, condition: Condition): SQL {
  const personId = ownOf(actor);
  const ways = 'anyOf' in condition ? condition.anyOf.filter(isOwnWay) : [];
  if (personId === null || ways.length === 0) return sql`false`;
  const among = ways.map((way) => {
    const parts = ownPapersSql[way].split('$1').map((part) => sql.raw(part));
    return sql`${document.id} in (${sql.join(parts, sql`${personId}`)})`;
  });
  return sql`(${sql.join(among, sql` or `)})`;
}

/** Ids of the people meant, as a list of texts. */
function meant(actor: Actor, who: readonly ('me' | 'my-groups')[]): SQL {
  const mates = who.includes('my-groups')
    ? sql` union select mate.person_id::text from ${membership} as mine join ${membership} as mate on mate.group_id = mine.group_id
        where mine.person_id = ${actor.personId}::uuid`
    : sql``;
  return sql`(select ${actor.personId}::text ${mates})`;
}

const uuidForm = /^[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}$/u;
const uuids = (all: readonly unknown[]): string[] =>
  all.filter((each): each is string => typeof each === 'string' && uuidForm.test(each));

/** The sort key of a column, and its SQL type. Papers without a value come last in both directions. */
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
