import { momentInWords } from '@/core/calendar/moment';
import type { ArrivalSheet } from '@/core/intake/contract';
import { useSurroundings } from '../surroundings/Surroundings';

/** What was said about an arrival, and why what was to be done with it by itself was not. */
export function Conversation({ sheet: { said, askedOf, leftBecause } }: { readonly sheet: ArrivalSheet }) {
  const { timeZone, me } = useSurroundings();
  if (said.length === 0 && leftBecause === null) return null;
  return (
    <div className="border-b border-line px-4 py-3">
      {leftBecause !== null && <p className="text-sm text-soft">{leftBecause}</p>}
      {said.length > 0 && (
        <ol aria-label="What was said">
          {said.map(({ by, at, says }) => (
            <li key={at} className="mt-1 first:mt-0">
              <span className="text-sm text-soft">
                {by}, {momentInWords(at, timeZone)}
              </span>
              <span className="block break-words whitespace-pre-wrap">{says}</span>
            </li>
          ))}
        </ol>
      )}
      {askedOf !== null && (
        <p className="mt-1 text-sm text-brine-ink">
          {askedOf.id === me.id ? 'You are asked: file it, or answer by asking back.' : `${askedOf.name} is asked.`}
        </p>
      )}
    </div>
  );
}
