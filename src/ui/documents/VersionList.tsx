'use client';

import type { PaperDocket } from '@/core/documents/model';
import { sizeInWords } from '@/core/text/measure';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { say } from '../kit/notice';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** The versions of a paper, newest first; an older one can be restored as a new version. */
export function VersionList({ paper }: { readonly paper: PaperDocket }) {
  const { timeZone, now } = useSurroundings();
  const restore = useAct('paper.restoreVersion');
  const may = new Set(paper.capabilities);
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
          <span className="block font-mono text-xs text-soft" title={`SHA-256 ${version.sha256}`}>
            {version.sha256.slice(0, 16)}
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
