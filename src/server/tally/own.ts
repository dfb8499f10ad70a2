import { bitOf } from '@/core/access/capability';
import type { OwnWay } from '@/core/views/own';

/** Papers that stand in a place or below it, at home or filed there as well. */
const inPlaces = (places: string): string => `
  select lying.id from document as lying join place as home on home.id = lying.home_id
    join (${places}) as passed (place_id) on home.lineage @> array[passed.place_id]
  union
  select filed.document_id from filing as filed join place as listed on listed.id = filed.place_id
    join (${places}) as passed (place_id) on listed.lineage @> array[passed.place_id]`;

/** Papers of grants that give sight: of a paper itself, and of all that stands in a place. */
const passed = (grants: string): string => `
  select given.document_id from access_grant as given ${grants} and given.document_id is not null
  union ${inPlaces(`select given.place_id from access_grant as given ${grants} and given.place_id is not null`)}`;
const sight = `given.gives & ${bitOf('see')} <> 0`;

/**
 * The ids of papers that are somebody's own in each way, as SQL with the person's id as $1. Of what others passed to them,
 * what they took out of their list is left out.
 */
export const ownPapersSql: Readonly<Record<OwnWay, string>> = {
  'in-hand': 'select document_id from in_hand where person_id = $1::uuid',
  bookmarked: `select case when kind = 'paper' then ref::uuid end from bookmark where person_id = $1::uuid and kind = 'paper'`,
  'passed-to-me': passed(`
    left join passed_mark as mark on mark.person_id = $1::uuid
      and (mark.document_id = given.document_id or mark.place_id = given.place_id)
    where given.person_id = $1::uuid and given.given_by is distinct from $1::uuid and ${sight}
      and (mark.taken_out_at is null or given.given_at > mark.taken_out_at)`),
  'passed-to-my-groups': passed(`
    join membership as mine on mine.group_id = given.group_id and mine.person_id = $1::uuid where ${sight}`),
  'passed-by-me': passed(`where given.given_by = $1::uuid and given.person_id is distinct from $1::uuid and ${sight}`),
};
