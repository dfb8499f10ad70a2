import { sql, type SQL } from 'drizzle-orm';
import { deepFrom, largeBytes, nearlySame, soonDays, untellingTitle, type Finding } from '@/core/health/model';
import {
  blob,
  columnDef,
  document,
  likenessBand,
  membership,
  outsideLink,
  paperOrigin,
  person,
  personGroup,
  place,
  reading,
  readingStage,
  scopeEntry,
  version,
} from '../db/schema';
import { fullName } from '../known/places';

/** Papers that meet a condition, each with where it lies. Joined: its home and its version. */
const papers = (which: SQL, about: SQL = fullName.getSQL()): SQL => sql`
  select ${document.title} as name, ${about} as about, '/paper/' || ${document.id} as address
  from ${document}
  join ${place} on ${place.id} = ${document.homeId}
  join ${version} on ${version.id} = ${document.versionId}
  where ${document.disposedAt} is null and ${which}`;

/** Places that meet a condition, each with its way. */
const places = (which: SQL): SQL => sql`
  select ${place.name} as name,
    (select string_agg(above.name, ' / ' order by cardinality(above.lineage)) from ${place} as above
      where above.id = any(${place.lineage}) and above.kind <> 'library' and above.id <> ${place.id}) as about,
    '/place/' || ${place.id} as address
  from ${place} where ${which}`;

/** What several papers that are not disposed of have in common: values of `key` that so `many` say. */
const shared = (key: SQL, many: SQL): SQL => sql`
  select ${key} from ${document}
  join ${version} on ${version.id} = ${document.versionId} left join ${reading} on ${reading.sha256} = ${version.sha256}
  where ${document.disposedAt} is null and ${key} is not null group by 1 having ${many}`;

/** Each finding as a query of name, about and address. For keepers, to whom everything is open. */
export const findingSql: Readonly<Record<Finding, () => SQL>> = {
  damaged: () =>
    papers(
      sql`exists (select from ${blob} where ${blob.sha256} = ${version.sha256} and ${blob.damagedAt} is not null)`,
    ),
  unread: () =>
    papers(
      sql`exists (select from ${readingStage} where ${readingStage.sha256} = ${version.sha256}
        and ${readingStage.stage} = 'text' and ${readingStage.outcome} = 'failed')`,
    ),
  lacking: () =>
    papers(
      sql`exists (select from ${columnDef} where ${columnDef.required} and not ${columnDef.retired}
        and ${columnDef.placeId} = any(${place.lineage}) and not ${document.shownValues} ? ${columnDef.id}::text)`,
      sql`(select string_agg(${columnDef.name}, ', ') from ${columnDef} where ${columnDef.required} and not ${columnDef.retired}
        and ${columnDef.placeId} = any(${place.lineage}) and not ${document.shownValues} ? ${columnDef.id}::text)`,
    ),
  sameContent: () => papers(sql`${version.sha256} in (${shared(sql`${version.sha256}`, sql`count(*) > 1`)})`),
  sameText: () =>
    papers(
      sql`(select ${reading.textKey} from ${reading} where ${reading.sha256} = ${version.sha256}) in (
        ${shared(sql`${reading.textKey}`, sql`count(distinct ${version.sha256}) > 1`)})`,
    ),
  alikeText: () => sql`
    with telling as (
      select band, key from ${likenessBand} where band < ${nearlySame.bands}
      group by band, key having count(*) between 2 and ${nearlySame.mostInBand}
    ), pair as (
      select one.sha256 as one, other.sha256 as other
      from telling join ${likenessBand} as one using (band, key) join ${likenessBand} as other using (band, key)
      where one.sha256 <> other.sha256
      group by 1, 2 having count(*) >= ${nearlySame.shared}
    )
    select ${document.title} as name, 'like “' || min(near.title) || '”, ' || ${fullName} as about,
      '/paper/' || ${document.id} as address
    from pair
    join ${version} on ${version.sha256} = pair.one
    join ${document} on ${document.versionId} = ${version.id} and ${document.disposedAt} is null
    join ${place} on ${place.id} = ${document.homeId}
    join ${version} as near_version on near_version.sha256 = pair.other
    join ${document} as near on near.version_id = near_version.id and near.disposed_at is null and near.id <> ${document.id}
    join ${reading} as own_text on own_text.sha256 = pair.one join ${reading} as near_text on near_text.sha256 = pair.other
    where own_text.text_key <> near_text.text_key
    group by ${document.id}, ${place.id}`,
  untelling: () => papers(sql`${document.title} ~* ${untellingTitle}`),
  behind: () =>
    papers(
      sql`exists (select from ${paperOrigin} join ${document} as original on original.id = ${paperOrigin.originalId}
        where ${paperOrigin.documentId} = ${document.id} and original.disposed_at is null
          and original.version_id is distinct from ${paperOrigin.versionId})`,
    ),
  large: () =>
    papers(
      sql`${document.sizeBytes} > ${largeBytes}`,
      sql`round(${document.sizeBytes} / 1e6) || ' MB · ' || ${fullName}`,
    ),
  emptyFolders: () =>
    places(sql`${place.kind} = 'folder' and ${place.plannedKey} is null and ${place.meetingDay} is null
      and not exists (select from ${place} as inner_place where inner_place.parent_id = ${place.id})
      and not exists (select from ${document} where ${document.homeId} = ${place.id})
      and not exists (select from filing where filing.place_id = ${place.id})`),
  // The library, a series and a dossier stand above the first folder.
  deepFolders: () => places(sql`${place.kind} = 'folder' and cardinality(${place.lineage}) > ${deepFrom + 3}`),
  standAlone: () => sql`
    ${places(sql`not ${place.follows} and ${place.kind} <> 'library'`)}
    union all ${papers(sql`not ${document.follows}`)}`,
  linksEnding: () => sql`
    select coalesce(
        (select ${document.title} from ${document} where ${document.id} = ${outsideLink.documentId}),
        (select ${place.name} from ${place} where ${place.id} = ${outsideLink.placeId}), '') as name,
      'ends ' || to_char(${outsideLink.expiresAt}, 'FMDD Mon YYYY') || coalesce(', for ' || ${outsideLink.email}, '') as about,
      '/links' as address
    from ${outsideLink}
    where ${outsideLink.withdrawnAt} is null
      and ${outsideLink.expiresAt} between now() and now() + make_interval(days => ${soonDays})`,
  noAccess: () => sql`
    select ${person.name} as name, ${person.email} as about, '/people' as address from ${person}
    where ${person.active} and not ${person.keeper}
      and not exists (select from ${scopeEntry} where ${scopeEntry.personId} = ${person.id})`,
  emptyGroups: () => sql`
    select ${personGroup.name} as name, '' as about, '/people' as address from ${personGroup}
    where not exists (select from ${membership} where ${membership.groupId} = ${personGroup.id})`,
};
