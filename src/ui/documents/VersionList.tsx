'use client';

import type { PaperDocket } from '@/core/documents/model';
import { sizeInWords } from '@/core/text/measure';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { say } from '../kit/notice';
import { Link } from '../kit/link';
import { call, saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** The versions of a paper, newest first; an older one can be restored as a new version. */
export function VersionList({ paper }: { readonly paper: PaperDocket }) {
  const { timeZone, now } = useSurroundings();
  const restore = useAct('paper.restoreVersion');
  const may = new Set(paper.capabilities);
  const check = (number: number) =>
    void call('paper.check', { documentId: paper.id, version: number }).then(
      ({ whole }) =>
        whole
          ? say.done(`Version ${number} is what was filed, byte by byte`)
          : say.refusal(
              `Version ${number} is no longer what was filed: it is damaged. A keeper can bring it back from a backup.`,
            ),
      (error: unknown) => say.refusal(saysOf(error)),
    );
  return (
    <ol className="space-y-1.5">
      {paper.versions.map((version, index) => (
        <li key={version.number}>
          <span className="figures">
            {version.number} · {version.madeBy} ·{' '}
            <time dateTime={version.madeAt} title={momentInWords(version.madeAt, timeZone)}>
              {whenInWords(version.madeAt, now, timeZone)}
            </time>{' '}
            · {sizeInWords(version.sizeBytes)}
            {version.restoredFrom !== null && ` · as version ${version.restoredFrom} was`}
          </span>
          {version.remark !== '' && <span className="block break-words">{version.remark}</span>}
          <span className="block font-mono text-xs text-soft" title={`SHA-256 ${version.sha256}`}>
            {version.sha256.slice(0, 16)}
          </span>
          <span className="-ml-3 block">
            <Button look="quiet" aria-label={`Check version ${version.number}`} onClick={() => check(version.number)}>
              Check it now
            </Button>
            {paper.versions[index + 1] && (
              <Link
                className="px-3 text-brine-ink hover:underline"
                href={`/paper/${paper.id}/versions?one=${paper.versions[index + 1]?.number ?? 1}&other=${version.number}`}
              >
                Compare
              </Link>
            )}
          </span>
          {index > 0 && (
            <span className="-ml-3 block">
              {may.has('take') && (
                <a
                  className="px-3 text-brine-ink hover:underline"
                  href={`/api/paper/${paper.id}/content?copy&version=${version.number}`}
                >
                  Download
                </a>
              )}
              {may.has('amend') && paper.disposedAt === null && (
                <Button
                  look="quiet"
                  aria-label={`Restore version ${version.number}`}
                  disabled={restore.isPending}
                  onClick={() =>
                    restore.mutate(
                      { documentId: paper.id, number: version.number, revision: paper.revision },
                      {
                        onSuccess: ({ number }) =>
                          say.done(`Version ${version.number} is restored as version ${number}`),
                      },
                    )
                  }
                >
                  Restore
                </Button>
              )}
            </span>
          )}
        </li>
      ))}
    </ol>
  );
}
