import { impactInWords, type ImpactLine } from '@/core/access/impactWords';
import { counted } from '@/core/text/measure';

const mostNames = 6;

function named(names: readonly string[]): string {
  const shown = names.slice(0, mostNames).join(', ');
  return names.length > mostNames ? `${shown} and ${names.length - mostNames} more` : shown;
}

/** Who would gain and lose what by a change; `lines` is undefined while that is being computed. */
export function ImpactLines({ lines }: { readonly lines: readonly ImpactLine[] | undefined }) {
  return (
    <div role="status" className="mt-1">
      {lines === undefined && <p className="text-soft">Working out who gains and loses…</p>}
      {lines?.map((line) => (
        <p key={`${line.kind} ${line.set} ${line.names.join()}`} className="mb-1">
          <strong>{named(line.names)}</strong> {impactInWords(line)}.
          {line.lastWay && (
            <strong className="text-ember-ink">
              {' '}
              {line.names.length === 1 ? 'It is their' : 'For each it is the'} last way into the library.
            </strong>
          )}
          {line.papers > 0 && line.examples.length > 0 && line.papers > line.examples.length && (
            <span className="block text-sm text-soft">
              {line.examples.map((title) => `“${title}”`).join(', ')} and{' '}
              {counted(line.papers - line.examples.length, 'other')}
            </span>
          )}
          {line.papers > 0 && line.papers <= line.examples.length && (
            <span className="block text-sm text-soft">{line.examples.map((title) => `“${title}”`).join(', ')}</span>
          )}
        </p>
      ))}
      {lines !== undefined && (
        <p className="text-soft">
          {lines.length === 0 ? 'Nobody gains or loses anything.' : 'Nobody else is affected.'}
        </p>
      )}
    </div>
  );
}
