'use client';

import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** What someone reads to whom nothing is open: whom to ask; a keeper of an empty library, how to begin. */
export function NothingOpen() {
  const { me } = useSurroundings();
  const { data } = useAsk('desk.keepers', {}, { enabled: !me.keeper });
  return (
    <div className="max-w-[60ch] rounded-sm border border-line bg-sheet px-5 py-6">
      {me.keeper ? (
        <>
          <h2 className="font-condensed text-lg">The library is empty</h2>
          <p className="mt-1">
            Make a series with the tab above: Board & committees, Suppliers, whatever your organisation keeps.
          </p>
        </>
      ) : (
        <>
          <h2 className="font-condensed text-lg">Nothing is open to you yet</h2>
          <p className="mt-1">
            What others open to you appears here by itself.{' '}
            {data && data.length > 0 ? 'Whom to ask for it:' : 'A keeper of the library can open it to you.'}
          </p>
          <ul className="mt-2">
            {data?.map(({ name, email }) => (
              <li key={email}>
                {name},{' '}
                <a href={`mailto:${email}`} className="underline">
                  {email}
                </a>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
