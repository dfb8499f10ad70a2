'use client';

import { useState } from 'react';
import type { AccessOn, SheetPerson } from '@/core/access/contract';
import { setInWords } from '@/core/access/words';
import { Button } from '../kit/button';
import { Pick } from '../kit/pick';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { seeAs } from './seeAs';

/** Everyone who can see it, and why anyone can or cannot. */
export function WhoSees({ on, people }: { readonly on: AccessOn; readonly people: readonly SheetPerson[] }) {
  const { me } = useSurroundings();
  const [asked, setAsked] = useState<string | null>(null);
  const [words, setWords] = useState('');
  const { data: found, isPending, isPlaceholderData } = useAsk('access.choices', { on, words }, { keepPrevious: true });
  const others = (found ?? []).flatMap(({ subject, name, about }) =>
    subject.kind === 'person' ? [{ id: subject.id, name, about }] : [],
  );
  const elsewhere = asked !== null && !people.some((each) => each.id === asked);
  return (
    <section aria-label="Everyone who can open it" className="mt-5">
      <div className="mb-1 flex items-center gap-3">
        <h3 className="flex-1 font-condensed">Everyone who can open it</h3>
        <Pick
          label="Why can someone open it, or not?"
          shown="Why, or why not…"
          items={others}
          picked={[]}
          onWords={setWords}
          answered={!(isPending || isPlaceholderData)}
          onPick={setAsked}
          nothing="Nobody found."
          className="h-[30px] rounded-sm border border-line px-3 hover:border-edge"
        />
      </div>
      {elsewhere && (
        <div className="mb-2 rounded-sm border border-line bg-fog px-3 py-2">
          <Why on={on} personId={asked} />
        </div>
      )}
      <ul className="border-t border-line">
        {people.map((each) => (
          <li key={each.id} className="border-b border-line py-1">
            <div className="flex items-center gap-2">
              <span className="min-w-0 flex-1">
                {each.name}
                <span className="text-sm text-soft">
                  {each.outside && ' · outside the organisation'} · {each.keeper ? 'keeper' : setInWords(each.set)}
                </span>
              </span>
              {each.id !== me.id && (
                <Button
                  look="quiet"
                  className="!h-[26px] !px-1"
                  aria-label={`See the library as ${each.name}`}
                  onClick={() => seeAs('person', each.id)}
                >
                  See as
                </Button>
              )}
              <Button
                look="quiet"
                className="!h-[26px] !px-1"
                aria-expanded={asked === each.id}
                aria-label={`Why can ${each.name} open it?`}
                onClick={() => setAsked(asked === each.id ? null : each.id)}
              >
                Why?
              </Button>
            </div>
            {asked === each.id && (
              <div className="mb-1 rounded-sm bg-fog px-3 py-2">
                <Why on={on} personId={each.id} />
              </div>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The reasons for one person's access, step by step. */
function Why({ on, personId }: { readonly on: AccessOn; readonly personId: string }) {
  const { data, error } = useAsk('access.why', { on, personId });
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data) return <p className="text-soft">Following the chain…</p>;
  return (
    <div role="status">
      <p className="font-medium">{data.comesTo}.</p>
      <ol className="mt-1 list-decimal pl-5 text-sm">
        {data.links.map((link, at) => (
          <li key={`${at} ${link}`}>{link}</li>
        ))}
      </ol>
    </div>
  );
}
