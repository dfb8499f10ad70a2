'use client';

import { dayInWords, momentInWords, whenInWords } from '@/core/calendar/moment';
import { counted, sizeInWords } from '@/core/text/measure';
import { Link } from '../kit/link';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** The backups of the library, how they come about, and how one is brought back. */
export function BackupsPage() {
  const { now, timeZone } = useSurroundings();
  const { data, error } = useAsk('backups.made', {});
  if (error) return <p className="p-6">{saysOf(error)}</p>;
  if (!data) return <p className="p-6" aria-busy />;
  const { backups, everyDays, hasFolder } = data;
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <h1 className="mb-1 font-condensed text-xl">Backups</h1>
      <p className="mb-3 max-w-[80ch] text-soft">
        A backup has everything: papers with all their versions, values, access, people and the journal. It is of one
        moment, and is made while everyone goes on working.{' '}
        {hasFolder
          ? everyDays === null
            ? 'The library makes none by itself: its settings say so.'
            : `The library makes one by itself ${everyDays === 1 ? 'every day' : `every ${everyDays} days`}.`
          : 'No folder is set on this machine into which the library would make one by itself.'}{' '}
        <Link href="/settings" className="underline">
          Library settings
        </Link>
      </p>
      {backups.length === 0 ? (
        <p className="rounded-sm border border-straw-edge bg-straw px-4 py-4 text-straw-ink">
          No backup of this library has been made yet.
        </p>
      ) : (
        <div className="overflow-x-auto rounded-sm border border-line bg-sheet">
          <table className="w-full text-left">
            <thead className="border-b border-line font-condensed text-sm text-soft">
              <tr>
                {['Made', 'Papers', 'Size', 'New in it', 'Proved whole', 'Where'].map((head) => (
                  <th key={head} scope="col" className="px-3 py-1.5">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {backups.map((backup) => (
                <tr key={backup.name} className="border-b border-line last:border-0">
                  <td className="px-3 py-1.5" title={momentInWords(backup.takenAt, timeZone)}>
                    {whenInWords(backup.takenAt, now, timeZone)}
                    {backup.damaged > 0 && (
                      <span className="block text-sm text-ember-ink">
                        {counted(backup.damaged, 'content was', 'contents were')} damaged in the library
                      </span>
                    )}
                  </td>
                  <td className="figures px-3 py-1.5">{backup.papers.toLocaleString('en-GB')}</td>
                  <td className="figures px-3 py-1.5">{sizeInWords(backup.bytes)}</td>
                  <td className="figures px-3 py-1.5">{sizeInWords(backup.newBytes)}</td>
                  <td className="px-3 py-1.5">
                    {backup.verifiedAt === null ? 'not yet' : dayInWords(backup.verifiedAt, timeZone)}
                  </td>
                  <td className="px-3 py-1.5 font-mono text-sm break-all">{backup.folder}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <h2 className="mt-6 mb-1 font-condensed text-lg">By hand</h2>
      <p className="mb-2 max-w-[80ch] text-soft">
        Whoever runs the machine types these in the folder of the program. A backup folder on another disk, or on
        another machine, outlives this one.
      </p>
      <dl className="grid max-w-[90ch] grid-cols-[minmax(0,1fr)] gap-x-4 gap-y-1.5 sm:grid-cols-[auto_minmax(0,1fr)]">
        {commands.map(([command, does]) => (
          <div key={command} className="contents">
            <dt className="font-mono text-sm">{command}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </main>
  );
}

const commands: readonly (readonly [string, string])[] = [
  ['npm run backup -- FOLDER', 'Makes a backup. Content that the folder has already is not written again.'],
  ['npm run backup -- FOLDER --verify', 'Proves the newest backup whole: every content is read again.'],
  ['npm run restore -- FOLDER', 'Brings the newest backup back, into an empty library, on this machine or another.'],
  ['npm run verify -- --bytes', 'Proves the library itself whole.'],
];
