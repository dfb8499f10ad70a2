import type { ImpactLine } from '@/core/access/impactWords';
import { counted } from '@/core/text/measure';
import { ImpactLines } from './ImpactLines';

/** Who would gain and lose what by a move. */
export function Consequences({
  paperCount,
  impact,
  values,
}: {
  readonly paperCount: number;
  readonly impact: readonly ImpactLine[];
  readonly values: readonly { readonly name: string; readonly papers: number; readonly overwritten: number }[];
}) {
  return (
    <div
      className={`mt-4 rounded-sm border px-4 py-3 ${impact.length > 0 ? 'border-ember bg-ember-wash' : 'border-line bg-fog'}`}
    >
      <p className="font-condensed">{counted(paperCount, 'paper')} would move. Then:</p>
      <ImpactLines lines={impact} />
      {values.length > 0 && (
        <p className="mt-1">
          The place gives its own values:{' '}
          {values.map((each) => `${each.name} of ${counted(each.papers, 'paper')}`).join(', ')} would change.
        </p>
      )}
    </div>
  );
}
