import { counted } from '@/core/text/measure';

const most = 6;

function listed(names: readonly string[]): string {
  const shown = names.slice(0, most).join(', ');
  return names.length > most ? `${shown} and ${names.length - most} more` : shown;
}

/** Who loses and gains sight by a change, said before it is made. */
export function Consequences({
  paperCount,
  losing,
  gaining,
  values,
}: {
  readonly paperCount: number;
  readonly losing: readonly string[];
  readonly gaining: readonly string[];
  readonly values: readonly { readonly name: string; readonly papers: number; readonly overwritten: number }[];
}) {
  const touched = losing.length + gaining.length > 0;
  return (
    <div
      role="status"
      className={`mt-4 rounded-sm border px-4 py-3 ${touched ? 'border-ember bg-ember-wash' : 'border-line bg-fog'}`}
    >
      <p className="font-condensed">{counted(paperCount, 'paper')} would move</p>
      {losing.length > 0 && (
        <p className="mt-1">
          <strong>{listed(losing)}</strong> would no longer see {paperCount === 1 ? 'it' : 'them'}.
        </p>
      )}
      {gaining.length > 0 && (
        <p className="mt-1">
          <strong>{listed(gaining)}</strong> would come to see {paperCount === 1 ? 'it' : 'them'}.
        </p>
      )}
      {values.length > 0 && (
        <p className="mt-1">
          The place gives its own values:{' '}
          {values.map((each) => `${each.name} of ${counted(each.papers, 'paper')}`).join(', ')} would change.
        </p>
      )}
      {!touched && <p className="mt-1 text-sm text-soft">Nobody gains or loses sight of anything.</p>}
    </div>
  );
}
