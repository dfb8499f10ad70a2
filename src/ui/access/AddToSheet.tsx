'use client';

import { Command } from 'cmdk';
import { useDeferredValue, useState } from 'react';
import type { AccessOn, SubjectChoice } from '@/core/access/contract';
import { readySets, type CapabilitySet, type ReadySet } from '@/core/access/capability';
import { subjectKey } from '@/core/access/resolve';
import { setInWords } from '@/core/access/words';
import { searchKey } from '@/core/text/fold';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { InviteDialog } from '../invitations/InviteDialog';
import { useSurroundings } from '../surroundings/Surroundings';

const isReadySet = (text: string): text is ReadySet => text in readySets;

/** Whether the text is a list of addresses and not part of a name. */
const isList = (text: string): boolean => /[\n;]|@.*[,\s].*@|[^\s@]+@[^\s@]+\.[^\s@]+/u.test(text.trim());

/** Adds people and groups by any part of their names, or by a pasted list of addresses. */
export function AddToSheet({
  on,
  onAdd,
}: {
  readonly on: AccessOn;
  readonly onAdd: (choices: readonly SubjectChoice[], gives: CapabilitySet) => void;
}) {
  const [words, setWords] = useState('');
  const [marked, setMarked] = useState('');
  const [as, setAs] = useState<ReadySet>('reader');
  const asked = useDeferredValue(words);
  const list = isList(words);
  const { data } = useAsk(
    'access.choices',
    { on, words: asked.slice(0, 200) },
    { enabled: asked.trim() !== '' && !list, keepPrevious: true },
  );
  // Offers results for earlier words only if they match the present ones, since Enter may come before the answer.
  const found = (data ?? []).filter(({ name, about }) => searchKey(`${name} ${about}`).includes(searchKey(words)));
  const keys = found.map(({ subject }) => subjectKey(subject));
  const inSight = keys.includes(marked) ? marked : (keys[0] ?? '');
  return (
    <>
      <div className="mt-3 flex flex-wrap gap-2">
        <Command
          shouldFilter={false}
          label="Add a person or a group"
          value={inSight}
          onValueChange={setMarked}
          className="relative min-w-[220px] flex-1"
        >
          <Command.Input
            value={words}
            onValueChange={setWords}
            onPaste={(event) => {
              // A single-line field would join lines of addresses.
              const text = event.clipboardData.getData('text');
              if (!text.includes('\n')) return;
              event.preventDefault();
              setWords(
                words +
                  text
                    .trim()
                    .split(/\s*\n\s*/u)
                    .join('; '),
              );
            }}
            placeholder="Add a person, a group, or paste addresses"
            className="h-[34px] w-full rounded-sm border border-edge bg-sheet px-2.5 placeholder:text-soft"
          />
          <Command.List
            hidden={words.trim() === '' || list}
            className="absolute z-20 mt-1 max-h-60 w-full overflow-y-auto rounded-sm border border-line bg-sheet p-1 shadow-md"
          >
            {words.trim() !== '' && !list && (
              <>
                <Command.Empty className="px-2 py-2 text-sm text-soft">Nobody found.</Command.Empty>
                {found.map((choice) => (
                  <Command.Item
                    key={subjectKey(choice.subject)}
                    value={subjectKey(choice.subject)}
                    onSelect={() => {
                      onAdd([choice], readySets[as]);
                      setWords('');
                    }}
                    className="cursor-pointer rounded-sm px-2 py-1 data-[selected=true]:bg-brine-wash"
                  >
                    {choice.name} <span className="text-sm text-soft">{choice.about}</span>
                  </Command.Item>
                ))}
              </>
            )}
          </Command.List>
        </Command>
        <select
          aria-label="Add them as"
          value={as}
          onChange={(event) => isReadySet(event.target.value) && setAs(event.target.value)}
          title={setInWords(readySets[as])}
          className="h-[34px] w-[150px] rounded-sm border border-edge bg-sheet px-2"
        >
          {Object.keys(readySets).map((name) => (
            <option key={name} value={name}>
              As {name}
            </option>
          ))}
        </select>
      </div>
      {list && (
        <Pasted
          on={on}
          text={words}
          onAdd={(choices) => {
            onAdd(choices, readySets[as]);
            setWords('');
          }}
        />
      )}
    </>
  );
}

/** A pasted list, sorted: people who can be added, people to invite first, and text that is no address. */
function Pasted({
  on,
  text,
  onAdd,
}: {
  readonly on: AccessOn;
  readonly text: string;
  readonly onAdd: (choices: readonly SubjectChoice[]) => void;
}) {
  const { me } = useSurroundings();
  const [inviting, setInviting] = useState<{ name: string; address: string } | null>(null);
  const { data, error } = useAsk('access.addresses', { on, text: text.slice(0, 20_000) }, { keepPrevious: true });
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data) return null;
  return (
    <section aria-label="Pasted addresses" className="mt-2 rounded-sm border border-line bg-fog px-3 py-2">
      {data.known.length > 0 && (
        <div className="flex flex-wrap items-center gap-2">
          <span className="min-w-0 flex-1">{data.known.map((each) => each.name).join(', ')}</span>
          <Button onClick={() => onAdd(data.known)}>Add {counted(data.known.length, 'person', 'people')}</Button>
        </div>
      )}
      {data.unknown.map((each) => (
        <div key={each.address} className="mt-1 flex items-center gap-2">
          <span className="min-w-0 flex-1">
            {each.name} {each.address} <span className="text-sm text-soft">has no account here</span>
          </span>
          {me.keeper ? (
            <Button aria-label={`Invite ${each.address}`} onClick={() => setInviting(each)}>
              Invite…
            </Button>
          ) : (
            <span className="text-sm text-soft">A keeper can invite them.</span>
          )}
        </div>
      ))}
      {data.wrong.length > 0 && (
        <p className="mt-1 text-sm text-ember-ink">
          No addresses, and left out: {data.wrong.map((each) => `“${each}”`).join(', ')}
        </p>
      )}
      {inviting && <InviteDialog name={inviting.name} address={inviting.address} onClose={() => setInviting(null)} />}
    </section>
  );
}
