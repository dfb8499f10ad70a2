'use client';

import { useState, type FormEvent } from 'react';
import { depthsOf } from '@/core/outline/outline';
import { writeDay } from '@/core/calendar/typedDay';
import { Refusal } from '@/core/errors/refusal';
import { layOut } from '@/core/packs/layout';
import type { IssueForm } from '@/core/packs/model';
import type { PackSheet } from '@/core/packs/contract';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { Outline } from '../outline/Outline';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { CoverDialog } from './CoverDialog';
import { DropPapers } from './DropPapers';
import { EntryLine, pagesOf } from './EntryLine';
import { isComing, IssueList } from './IssueList';
import { PaperFinder } from './PaperFinder';
import { usePackActs } from './usePackActs';

const againMs = 700;

/** A pack that is put together: at the left what can be found, at the right the pack as an outline. */
export function PackPage({ packId }: { readonly packId: string }) {
  const { data, error } = useAsk('pack.of', { packId }, { again: ({ issues }) => issues.some(isComing) && againMs });
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5 max-sm:px-3">
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && <Assembling sheet={data} />}
    </main>
  );
}

function Assembling({ sheet }: { readonly sheet: PackSheet }) {
  const { entries, mayChange, meeting, place, name, issues } = sheet;
  const acts = usePackActs(sheet);
  const [target, setTarget] = useState<string | null>(null);
  const [isCover, setCover] = useState(false);
  const section = entries.find(({ id }) => id === target);
  const depths = depthsOf(entries);
  const papers = entries.filter(({ kind }) => kind === 'paper');
  const laid = entries.map((entry) => ({
    ...entry,
    pages: entry.kind === 'section' ? 0 : entry.paper?.fault === null ? pagesOf(entry) : null,
  }));
  /** The section that a line is, or lies in; null: none. */
  const sectionAt = (lineId: string | null): string | null => {
    const line = entries.find(({ id }) => id === lineId);
    return line?.kind === 'section' ? line.id : (line?.parentId ?? null);
  };
  const { total } = layOut(laid, { sheets: sheet.sheets });
  return (
    <>
      <p className="text-sm">
        {meeting ? (
          <Link href={`/meeting/${meeting.id}?part=packs`} className="text-brine-ink hover:underline">
            {meeting.title}, {writeDay(meeting.day)}
          </Link>
        ) : (
          <Link href={`/place/${place.id}`} className="text-brine-ink hover:underline">
            {place.name}
          </Link>
        )}
      </p>
      <div className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h1 className="min-w-0 flex-1 font-condensed text-xl">{name}</h1>
        {mayChange && <Button onClick={() => setCover(true)}>Cover and stamps…</Button>}
        {mayChange && <Issuing sheet={sheet} />}
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-6 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)]">
        {mayChange && (
          <div className="max-lg:order-2 lg:sticky lg:top-0 lg:flex lg:h-[calc(100vh-250px)] lg:flex-col">
            <PaperFinder
              sheet={sheet}
              acts={acts}
              sectionId={section?.id ?? null}
              sectionName={
                section
                  ? `into “${section.title}”`
                  : meeting
                    ? 'where the agenda has them, else at the end'
                    : 'at the end'
              }
            />
          </div>
        )}
        <div>
          <IssueList issues={issues} mayChange={mayChange} />
          <p className="my-2 text-soft">
            {counted(papers.length, 'paper')}, {counted(total, 'page')} with cover and contents
          </p>
          <DropPapers isOpen={mayChange} onPapers={(ids, lineId) => acts.add(ids, sectionAt(lineId))}>
            {(overId) => (
              <Outline
                nameOf={(id) => entries.find((entry) => entry.id === id)?.title ?? ''}
                mayMove={mayChange}
                onDrop={acts.moveBefore}
              >
                {entries.map((entry, at) => (
                  <EntryLine
                    key={entry.id}
                    entry={entry}
                    depth={depths[at] ?? 1}
                    sheet={sheet}
                    acts={acts}
                    isTarget={section?.id === entry.id || (overId !== null && sectionAt(overId) === entry.id)}
                    onTarget={(on) => setTarget(on ? entry.id : null)}
                  />
                ))}
                {entries.length === 0 && (
                  <li className="px-4 py-4 text-soft">Nothing in it yet. Add papers, or a section for them first.</li>
                )}
              </Outline>
            )}
          </DropPapers>
          {mayChange && <AddSection packId={sheet.id} />}
          {mayChange && meeting && <TakeAgenda packId={sheet.id} />}
        </div>
      </div>
      {isCover && <CoverDialog sheet={sheet} onClose={() => setCover(false)} />}
    </>
  );
}

/** Issues the pack; where some papers cannot be pages they are named, and it is asked once what becomes of them. */
function Issuing({ sheet: { id: packId, issues, entries } }: { readonly sheet: PackSheet }) {
  const issue = useAct('pack.issue', { quiet: true });
  const isIssued = issues.some(({ state, isSupplement }) => state === 'done' && !isSupplement);
  const [as, setAs] = useState<IssueForm>('whole');
  const [pages, setPages] = useState<IssueForm>('supplement');
  const send = (asFiles: boolean, what = as) => {
    setAs(what);
    issue.mutate({ packId, asFiles, as: what }, { onSuccess: () => say.done('The pack is being made') });
  };
  const isBusy = issue.isPending || issues.some(isComing) || !entries.some(({ kind }) => kind === 'paper');
  const asksForFiles =
    issue.error instanceof Refusal && issue.error.issue.fields?.some(({ path }) => path === 'asFiles') === true;
  return (
    <>
      {isIssued && (
        <Button disabled={isBusy} onClick={() => send(false, 'whole')}>
          Issue all of it again
        </Button>
      )}
      {isIssued && (
        <select
          aria-label="Pages of a supplement"
          value={pages}
          onChange={({ target }) => setPages(target.value === 'letIn' ? 'letIn' : 'supplement')}
          className="h-[30px] rounded-sm border border-edge bg-sheet px-2"
        >
          <option value="supplement">New pages go on at the end</option>
          <option value="letIn">New pages are let in (40a)</option>
        </select>
      )}
      <Button look="main" disabled={isBusy} onClick={() => send(false, isIssued ? pages : 'whole')}>
        {isIssued ? 'Issue a supplement' : 'Issue the pack'}
      </Button>
      {issue.error && (
        <div
          role="alert"
          className="flex basis-full flex-wrap items-center gap-3 rounded-sm border border-ember bg-ember-wash px-4 py-2"
        >
          <span className="min-w-0 flex-1">{saysOf(issue.error)}</span>
          {asksForFiles && <Button onClick={() => send(true)}>List them as files, and issue</Button>}
        </div>
      )}
    </>
  );
}

function AddSection({ packId }: { readonly packId: string }) {
  const add = useAct('pack.addSection');
  const [title, setTitle] = useState('');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (title.trim() === '' || add.isPending) return;
    add.mutate({ packId, parentId: null, title }, { onSuccess: () => setTitle('') });
  };
  return (
    <form onSubmit={submit} className="mt-2 flex items-center gap-2">
      <input
        aria-label="Title of a new section"
        placeholder="New section"
        value={title}
        maxLength={300}
        onChange={({ target }) => setTitle(target.value)}
        className="h-[34px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2.5 placeholder:text-soft"
      />
      <Button type="submit" disabled={title.trim() === '' || add.isPending}>
        Add the section
      </Button>
    </form>
  );
}

function TakeAgenda({ packId }: { readonly packId: string }) {
  const take = useAct('pack.takeAgenda');
  return (
    <p className="mt-3 flex flex-wrap items-center gap-3 text-sm text-soft">
      <span className="min-w-0 flex-1">What comes onto the agenda later is not in the pack by itself.</span>
      <Button
        look="quiet"
        disabled={take.isPending}
        onClick={() =>
          take.mutate(
            { packId },
            {
              onSuccess: ({ sections, papers }) =>
                say.done(
                  sections + papers === 0
                    ? 'The agenda has nothing that the pack has not'
                    : `${counted(sections, 'section')} and ${counted(papers, 'paper')} added from the agenda`,
                ),
            },
          )
        }
      >
        Take what is new from the agenda
      </Button>
    </p>
  );
}
