'use client';

import clsx from 'clsx';
import { useMemo, useState } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import type { PackReading } from '@/core/packs/contract';
import type { ReadablePaper } from '@/core/reading/contract';
import { pageAtPlace } from '@/core/packs/copies';
import { pageLabel } from '@/core/packs/letIn';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { useNarrow } from '../kit/useNarrow';
import { useKeptPack } from '../offline/useKeptPack';
import { PaperContent } from '../reading/PaperContent';
import { usePagesSoon } from '../reading/Pages';
import { sourceOf, type Source } from '../reading/source';
import { SteerContext } from '../reading/steer';
import { IssuedLink } from './IssuedLink';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { FollowBar } from './FollowBar';
import { noDraft, NotesPanel } from './NotesPanel';
import { useUnsentNotes } from './useUnsentNotes';

const againMs = 1000;

/** An issue of a pack as somebody reads it: its contents at the left, their copy at the right. */
export function IssuedPage({ issueId, read }: { readonly issueId: string; readonly read: PackReading }) {
  usePagesSoon();
  const { data, error } = useAsk(
    'pack.read',
    { issueId },
    {
      initialData: read,
      again: ({ copy, copyFailed, state }) => state === 'done' && copy === null && !copyFailed && againMs,
    },
  );
  return (
    <main id="main" className="flex min-h-0 min-w-0 flex-1 flex-col">
      {error && (
        <p role="alert" className="p-6">
          {saysOf(error)}
        </p>
      )}
      {data && <Issued pack={data} />}
    </main>
  );
}

function Issued({ pack }: { readonly pack: PackReading }) {
  const isNarrow = useNarrow();
  // On a narrow screen a panel is in the place of the pages.
  const [panel, setPanel] = useState<'contents' | 'notes' | null>(null);
  const [to, setTo] = useState<{ readonly page: number } | null>(null);
  const [page, setPage] = useState(1);
  const [draft, setDraft] = useState(noDraft);
  const [isDrawn, setDrawn] = useState(false);
  const { me } = useSurroundings();
  const unsent = useUnsentNotes(pack.id, me.id);
  const { name, called, state, endReason, place, meetingId, copy, copyFailed, runs, contents, id } = pack;
  const source = useCopy(pack);
  const isKept = useKeptPack(pack, (isDrawn && source?.address()) || null);
  const back = meetingId === null ? `/place/${place.id}` : `/meeting/${meetingId}?part=packs`;
  const goTo = (next: number) => {
    setTo({ page: next });
    if (isNarrow) setPanel(null);
  };
  // Who writes a note goes on writing while the page moves on.
  const follow = (next: number) => setTo({ page: next });
  const stops = useMemo(() => contents.flatMap(({ page: at }) => at ?? []), [contents]);
  const steer = useMemo(() => ({ to, onPage: setPage, stops, onDrawn: () => setDrawn(true) }), [to, stops]);
  const toggle = (which: 'contents' | 'notes') => setPanel(panel === which ? null : which);
  const at = pageAtPlace(runs, page);
  const list = <Contents pack={pack} page={page} isKept={isKept} onPage={goTo} />;
  const notes = (
    <NotesPanel
      issueId={id}
      here={{ page, number: isOfPaper(pack, page) && at !== null ? pageLabel(pack, at) : null }}
      draft={draft}
      unsent={unsent}
      onDraft={setDraft}
      onPage={goTo}
    />
  );
  return (
    <>
      <div className="no-print flex items-center gap-3 border-b border-line bg-sheet px-4 py-1.5">
        <Link href={back} className="shrink-0 text-brine-ink hover:underline">
          Back
        </Link>
        <h1 className="min-w-0 flex-1 font-condensed text-lg leading-tight">
          <span className="block truncate">{name}</span>
          <span className="block truncate text-sm text-soft">{called}</span>
        </h1>
        {copy && isNarrow && (
          <Button aria-expanded={panel === 'contents'} onClick={() => toggle('contents')}>
            Contents
          </Button>
        )}
        {copy && (
          <Button aria-expanded={panel === 'notes'} onClick={() => toggle('notes')}>
            Notes
          </Button>
        )}
        {copy && !isNarrow && <Download pack={pack} />}
      </div>
      {copy && meetingId !== null && <FollowBar issueId={id} page={page} mayLead={pack.mayLead} onPage={follow} />}
      {state === 'withdrawn' ? (
        <p role="alert" className="m-6 max-w-[60ch] rounded-sm border border-ember bg-ember-wash px-4 py-3">
          This issue was withdrawn: {endReason}. Nothing of it is given out any more.
        </p>
      ) : (
        <div className="flex min-h-0 flex-1">
          {!isNarrow && (
            <nav
              aria-label="Contents"
              className="no-print w-[300px] shrink-0 overflow-y-auto border-r border-line bg-sheet max-[1100px]:w-[240px] max-[899px]:hidden"
            >
              {list}
            </nav>
          )}
          <div className="relative min-h-0 min-w-0 flex-1 bg-mist">
            {source === null ? (
              <p role={copyFailed ? 'alert' : 'status'} className={copyFailed ? 'p-6' : 'p-6 text-soft'}>
                {copyFailed
                  ? 'Your copy could not be made, three times. The log says why: tell a keeper. The papers themselves are where they are filed.'
                  : 'Your copy is being made…'}
              </p>
            ) : (
              <>
                {isNarrow && panel !== null && (
                  <div className="absolute inset-0 z-10 overflow-y-auto bg-sheet">
                    {panel === 'notes' ? (
                      notes
                    ) : (
                      <nav aria-label="Contents">
                        {list}
                        <p className="px-4 py-2">
                          <Download pack={pack} />
                        </p>
                      </nav>
                    )}
                  </div>
                )}
                {/* The pages stay where they were while a panel is looked at. */}
                <div className="h-full" inert={isNarrow && panel !== null}>
                  <SteerContext value={steer}>
                    <PaperContent source={source} startAt={1} onAttachment={null} />
                  </SteerContext>
                </div>
              </>
            )}
          </div>
          {copy && !isNarrow && panel === 'notes' && (
            <aside aria-label="My notes" className="no-print w-[280px] shrink-0 border-l border-line bg-sheet">
              {notes}
            </aside>
          )}
        </div>
      )}
    </>
  );
}

/** Whether a page of a copy is one of a paper, as far as its contents tell. */
function isOfPaper({ contents }: PackReading, page: number): boolean {
  return contents.findLast(({ page: at }) => at !== null && at <= page)?.kind === 'paper';
}

function Download({ pack: { id, mayTake } }: { readonly pack: PackReading }) {
  if (!mayTake) return null;
  return (
    <a
      href={`/api/pack/${id}?copy`}
      className="inline-flex h-[30px] shrink-0 items-center rounded-sm border border-line px-3 hover:border-edge"
    >
      Download
    </a>
  );
}

function Contents({
  pack: { contents, leftOut, pagesInWords, supplements, supplementTo, issuedBy, issuedAt },
  page,
  isKept,
  onPage,
}: {
  readonly pack: PackReading;
  readonly page: number;
  /** Whether it can be read without a connection. */
  readonly isKept: boolean;
  readonly onPage: (page: number) => void;
}) {
  const { timeZone } = useSurroundings();
  const current = contents.findLastIndex(({ page: at }) => at !== null && at <= page);
  return (
    <>
      <p className="border-b border-line px-4 py-2 text-sm text-soft">
        Issued by {issuedBy}, {dayInWords(issuedAt, timeZone)}
      </p>
      <ol className="py-1">
        {contents.map(({ kind, title, depth, number, page: to }, at) => (
          <li key={`${at} ${title}`}>
            <button
              type="button"
              disabled={to === null}
              aria-current={at === current || undefined}
              onClick={() => to !== null && onPage(to)}
              className={clsx(
                'flex min-h-[30px] w-full items-baseline gap-2 py-1 pr-4 text-left hover:bg-fog disabled:hover:bg-transparent aria-[current]:bg-brine-wash',
                depth === 1 && 'font-medium',
              )}
              style={{ paddingLeft: 16 + (depth - 1) * 14 }}
            >
              <span className="min-w-0 flex-1">{title}</span>
              <span className="figures text-sm text-soft">{number ?? (kind === 'paper' ? 'file' : '')}</span>
            </button>
          </li>
        ))}
      </ol>
      <p className="px-4 py-2 text-sm text-soft">{pagesInWords}</p>
      {isKept && (
        <p role="status" className="px-4 pb-2 text-sm text-soft">
          Kept in this browser until you sign out: it can be read without a connection.
        </p>
      )}
      {supplementTo && (
        <p className="px-4 pb-2 text-sm">
          It goes on from{' '}
          <IssuedLink issueId={supplementTo.id} className="text-brine-ink underline">
            {supplementTo.called.toLowerCase()}
          </IssuedLink>
          .
        </p>
      )}
      {supplements.map((each) => (
        <p
          key={each.id}
          className="mx-4 mb-2 rounded-sm border border-straw-edge bg-straw px-3 py-2 text-sm text-straw-ink"
        >
          New:{' '}
          <IssuedLink issueId={each.id} className="underline">
            {each.called}
          </IssuedLink>
          , {counted(each.pages, 'page')}
        </p>
      ))}
      {leftOut.map((words) => (
        <p key={words} className="px-4 pb-2 text-sm text-soft">
          {words}
        </p>
      ))}
    </>
  );
}

/** Somebody's copy as content that is read on the screen; null while it is being made. */
function useCopy({ id, name, mayTake, copy }: PackReading): Source | null {
  const { sha256, pages } = copy ?? {};
  return useMemo(() => {
    if (sha256 === undefined || pages === undefined) return null;
    const paper: ReadablePaper = {
      state: 'read',
      why: null,
      form: 'pages',
      mediaType: 'application/pdf',
      fileName: `${name}.pdf`,
      sizeBytes: 0,
      sha256,
      pages,
      hasPages: true,
      hasView: false,
      mayTake,
      page: 1,
    };
    return { ...sourceOf(`/api/pack/${id}`, name, paper, {}, { issueId: id }), showsFirst: true };
  }, [id, name, sha256, pages, mayTake]);
}
