import { eq, inArray } from 'drizzle-orm';
import { grouped } from '@/core/collections/grouped';
import type { Column, Values } from '@/core/columns/model';
import type { Stated } from '@/core/stated/model';
import { allColumns } from '../columns/read';
import { db } from '../db/client';
import { idIn } from '../db/idIn';
import { attachment, document, place, version, type arrival } from '../db/schema';

type Filed = Pick<typeof arrival.$inferSelect, 'id' | 'sha256' | 'proposal' | 'documentIds' | 'versions'>;

/** A paper that an arrival became. */
export interface FiledPaper {
  readonly id: string;
  readonly sha256: string;
  readonly mediaType: string;
  /** What it shows now, and the columns in force where it lies. */
  readonly values: Values;
  readonly columns: readonly Column[];
  /** What was read of it when it arrived. */
  readonly stated: readonly Stated[];
}

/** The papers that some arrivals became, by arrival; those that were there before, and got a newer version, are left out. */
export async function papersOfFiled(filed: readonly Filed[]): Promise<ReadonlyMap<string, readonly FiledPaper[]>> {
  const ids = filed.flatMap(({ documentIds, versions }) => documentIds.filter((id) => !(id in versions)));
  if (ids.length === 0) return new Map();
  const [columns, papers, attached] = await Promise.all([
    allColumns(db()),
    db()
      .select({
        id: document.id,
        values: document.shownValues,
        lineage: place.lineage,
        sha256: version.sha256,
        mediaType: version.mediaType,
      })
      .from(document)
      .innerJoin(place, eq(place.id, document.homeId))
      .innerJoin(version, eq(version.id, document.versionId))
      .where(idIn(document.id, ids)),
    attachedTo(filed.map(({ sha256 }) => sha256)),
  ]);
  const byMail = grouped(attached, ({ mailSha256 }) => mailSha256);
  return new Map(
    filed.map((each) => {
      const its = papers.filter(({ id }) => each.documentIds.includes(id) && !(id in each.versions));
      return [
        each.id,
        its.map(({ lineage, ...paper }) => ({
          ...paper,
          columns: columns.filter(({ retired, placeId }) => !retired && lineage.includes(placeId)),
          stated: statedOf(each, paper.sha256, byMail.get(each.sha256) ?? []),
        })),
      ];
    }),
  );
}

type Attached = Awaited<ReturnType<typeof attachedTo>>;

const attachedTo = (mails: readonly string[]) =>
  db()
    .select({ mailSha256: attachment.mailSha256, number: attachment.number, sha256: attachment.sha256 })
    .from(attachment)
    .where(inArray(attachment.mailSha256, [...new Set(mails)]));

/** What was read of some content of an arrival. @param attached to that mail */
function statedOf({ sha256, proposal }: Filed, content: string, attached: Attached): readonly Stated[] {
  const numbers = attached.flatMap((each) => (each.sha256 === content ? [each.number] : []));
  const isPart = (part: number | null) => (part === null ? content === sha256 : numbers.includes(part));
  return (proposal?.parts ?? []).flatMap(({ attachment: part, stated = [] }) => (isPart(part) ? stated : []));
}
