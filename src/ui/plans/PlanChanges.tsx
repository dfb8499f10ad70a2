import type { PlanForecast, PlanLine } from '@/core/plans/contract';
import { counted } from '@/core/text/measure';

const words: Readonly<Record<PlanLine['what'], (folders: number) => string>> = {
  add: (folders) => `${counted(folders, 'folder is', 'folders are')} made`,
  adopt: (folders) =>
    `${counted(folders, 'folder')} of that name ${folders === 1 ? 'is' : 'are'} there already, and kept`,
  rename: (folders) => `${counted(folders, 'folder is', 'folders are')} renamed`,
  move: (folders) => `${counted(folders, 'folder is', 'folders are')} moved`,
  remove: (folders) => `${counted(folders, 'empty folder is', 'empty folders are')} removed`,
  leave: (folders) =>
    `${counted(folders, 'folder')} with papers ${folders === 1 ? 'stays' : 'stay'}, though the plan has no more of ${folders === 1 ? 'it' : 'them'}`,
  closed: (folders) =>
    `${counted(folders, 'folder')} in closed or locked places ${folders === 1 ? 'is' : 'are'} left alone`,
};
const order = ['add', 'rename', 'move', 'remove', 'leave', 'adopt', 'closed'] as const;

/** What saving a plan would change in all dossiers: how much of each, and which. */
export function PlanChanges({ forecast }: { readonly forecast: PlanForecast | undefined }) {
  if (!forecast)
    return (
      <p role="status" className="text-soft">
        Looking at all dossiers…
      </p>
    );
  const { counts, lines, dossiers } = forecast;
  const some = order.filter((what) => counts[what] > 0);
  return (
    <div role="status">
      {some.length === 0 ? (
        <p className="text-soft">
          {dossiers === 0
            ? 'There are no dossiers yet. New ones get these folders.'
            : `All ${counted(dossiers, 'dossier')} are as the plan says.`}
        </p>
      ) : (
        <p className="mb-1">In {counted(dossiers, 'dossier')}:</p>
      )}
      {some.map((what) => (
        <details key={what}>
          <summary className="cursor-pointer">
            <strong>{words[what](counts[what])}</strong>
          </summary>
          <ul className="mb-1 max-h-48 overflow-y-auto pl-4 text-sm">
            {lines
              .filter((line) => line.what === what)
              .map((line, at) => (
                <li key={at}>
                  {line.dossier}: {line.name}
                  {line.to !== null && ` becomes ${line.to}`}
                </li>
              ))}
            {counts[what] > lines.filter((line) => line.what === what).length && (
              <li className="text-soft">and more</li>
            )}
          </ul>
        </details>
      ))}
      {some.length > 0 && <p className="text-sm text-soft">No paper loses its place.</p>}
    </div>
  );
}
