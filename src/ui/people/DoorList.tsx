'use client';

import { doorWords, type DoorEvent, type DoorLine } from '@/core/people/account';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { useSurroundings } from '../surroundings/Surroundings';

/** What needs a second look. */
const wrong: ReadonlySet<DoorEvent> = new Set(['wrongPassword', 'wrongCode', 'paused']);

/** Lines of the sign-in journal. */
export function DoorList({ lines, withWho }: { readonly lines: readonly DoorLine[]; readonly withWho: boolean }) {
  const { now, timeZone } = useSurroundings();
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <thead>
          <tr className="border-b border-line text-sm text-soft">
            <th scope="col" className="py-1.5 pr-3 font-condensed">
              When
            </th>
            {withWho && (
              <th scope="col" className="pr-3 font-condensed">
                Account
              </th>
            )}
            <th scope="col" className="pr-3 font-condensed">
              What
            </th>
            <th scope="col" className="pr-3 font-condensed">
              From
            </th>
            <th scope="col" className="font-condensed">
              With
            </th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.id} className="border-b border-line last:border-0">
              <td className="py-1.5 pr-3 whitespace-nowrap">
                <time dateTime={line.at} title={momentInWords(line.at, timeZone)}>
                  {whenInWords(line.at, now, timeZone)}
                </time>
              </td>
              {withWho && <td className="pr-3">{line.who}</td>}
              <td className={`pr-3 ${wrong.has(line.event) ? 'font-semibold text-ember-ink' : ''}`}>
                {doorWords[line.event]}
              </td>
              <td className="figures pr-3 text-sm">{line.address}</td>
              <td className="text-sm">{line.browser}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
