'use client';

import { parseAsIsoDate, parseAsString, parseAsStringLiteral, useQueryStates } from 'nuqs';
import { useDeferredValue, useState } from 'react';
import { momentInWords } from '@/core/calendar/moment';
import type { InputOf, OutputOf } from '@/core/contract';
import { actGroups, type ActGroup } from '@/core/journal/groups';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { downloadCsv } from '../kit/downloadCsv';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { JournalHold } from './JournalHold';
import { JournalLine } from './JournalLine';

const groupWords: Readonly<Record<ActGroup, string>> = {
  filing: 'filing and changing papers',
  disposal: 'disposing of papers',
  values: 'values, labels and columns',
  places: 'series, dossiers and folders',
  access: 'access, links and tokens',
  people: 'people and groups',
  library: 'the library and views',
};
const field = 'h-[30px] rounded-sm border border-edge bg-sheet px-2';
/** So many entries a file has at most. */
const mostDownloaded = 20_000;

/** The journal of the library, or of one place or paper: by kind of act, person, days and words. */
export function JournalPage({
  about,
  name,
  people,
}: {
  readonly about: InputOf<'journal.find'>['about'];
  /** What it is the journal of; null for the library. */
  readonly name: string | null;
  readonly people: readonly { readonly id: string; readonly name: string }[];
}) {
  const { me, timeZone } = useSurroundings();
  const [asked, setAsked] = useQueryStates({
    group: parseAsStringLiteral(actGroups),
    person: parseAsString,
    from: parseAsIsoDate,
    to: parseAsIsoDate,
    words: parseAsString.withDefault(''),
  });
  const day = (date: Date | null) => date?.toISOString().slice(0, 10) ?? null;
  const question: InputOf<'journal.find'> = {
    about,
    group: asked.group,
    personId: asked.person,
    from: day(asked.from),
    to: day(asked.to),
    words: useDeferredValue(asked.words),
    before: null,
  };
  const key = JSON.stringify(question);
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      <h1 className="mb-3 font-condensed text-xl">{name === null ? 'Journal' : `Journal of ${name}`}</h1>
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <input
          type="search"
          aria-label="Words in the journal"
          placeholder="Words"
          value={asked.words}
          maxLength={200}
          onChange={(event) => void setAsked({ words: event.target.value || null })}
          className={`${field} w-[200px]`}
        />
        <select
          aria-label="Kind of act"
          value={asked.group ?? ''}
          onChange={(event) => void setAsked({ group: actGroups.find((each) => each === event.target.value) ?? null })}
          className={field}
        >
          <option value="">every kind of act</option>
          {actGroups.map((group) => (
            <option key={group} value={group}>
              {groupWords[group]}
            </option>
          ))}
        </select>
        {people.length > 0 && (
          <select
            aria-label="Person"
            value={asked.person ?? ''}
            onChange={(event) => void setAsked({ person: event.target.value || null })}
            className={field}
          >
            <option value="">everyone</option>
            {people.map((person) => (
              <option key={person.id} value={person.id}>
                {person.name}
              </option>
            ))}
          </select>
        )}
        {(['from', 'to'] as const).map((end) => (
          <label key={end} className="flex items-center gap-1.5">
            <span className="text-soft">{end === 'from' ? 'from' : 'to'}</span>
            <input
              type="date"
              value={day(asked[end]) ?? ''}
              onChange={(event) =>
                void setAsked({ [end]: event.target.value === '' ? null : new Date(`${event.target.value}T00:00:00Z`) })
              }
              className={field}
            />
          </label>
        ))}
        <Button onClick={() => void download(question, timeZone)}>Download as CSV</Button>
      </div>
      <Pages key={key} question={question} mayUndo={me.keeper} />
      {about === null && <JournalHold timeZone={timeZone} />}
    </main>
  );
}

type Page = OutputOf<'journal.find'>;

/** The entries, and more of them on request. */
function Pages({ question, mayUndo }: { readonly question: InputOf<'journal.find'>; readonly mayUndo: boolean }) {
  const { data, error } = useAsk('journal.find', question, { keepPrevious: true });
  const [more, setMore] = useState<readonly Page[]>([]);
  const [asking, setAsking] = useState(false);
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data) return <p aria-busy>Reading the journal…</p>;
  const pages = [data, ...more];
  const lines = pages.flatMap((page) => page.lines);
  const next = pages.at(-1)?.next ?? null;
  const go = () => {
    setAsking(true);
    call('journal.find', { ...question, before: next })
      .then((page) => setMore([...more, page]))
      .catch((refused: unknown) => say.refusal(saysOf(refused)))
      .finally(() => setAsking(false));
  };
  return (
    <>
      {lines.length === 0 && (
        <p className="rounded-sm border border-line bg-sheet px-4 py-6 text-soft">
          {next === null ? 'The journal has no such entry.' : 'Nothing among the latest entries.'}
        </p>
      )}
      <ol aria-label="Entries" className="rounded-sm border border-line bg-sheet empty:hidden">
        {lines.map((line) => (
          <li key={line.id} className="border-b border-line px-3 py-1.5 last:border-0">
            <JournalLine line={line} mayUndo={mayUndo} mayManage={mayUndo} />
          </li>
        ))}
      </ol>
      {next !== null && (
        <Button className="mt-2" disabled={asking} onClick={go}>
          {asking ? 'Looking…' : 'Earlier entries'}
        </Button>
      )}
    </>
  );
}

async function download(question: InputOf<'journal.find'>, timeZone: string): Promise<void> {
  const rows: string[][] = [['Entry', 'When', 'Who', 'What']];
  try {
    for (let before: number | null = null; ;) {
      const page: Page = await call('journal.find', { ...question, before });
      for (const { id, at, who, words } of page.lines) rows.push([String(id), momentInWords(at, timeZone), who, words]);
      before = page.next;
      if (before === null || rows.length > mostDownloaded) break;
    }
  } catch (error) {
    say.refusal(saysOf(error));
    return;
  }
  downloadCsv('Journal.csv', rows);
  say.done(`${counted(rows.length - 1, 'entry', 'entries')} downloaded`);
}
