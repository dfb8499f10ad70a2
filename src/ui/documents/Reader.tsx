'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { CaretLeftIcon, CaretRightIcon } from '@phosphor-icons/react';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { useDropzone } from 'react-dropzone';
import type { PaperDocket } from '@/core/documents/model';
import type { ReadablePaper } from '@/core/reading/contract';
import type { Attachment } from '@/core/reading/form';
import { isUnderWay } from '@/core/reading/stages';
import { isTyping } from '../kit/isTyping';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Link } from '../kit/link';
import { useNarrow } from '../kit/useNarrow';
import { PaperContent } from '../reading/PaperContent';
import { sourceOf } from '../reading/source';
import { SignBar } from '../signoff/SignBar';
import { useAct, useAsk } from '../server/useCall';
import { say } from '../kit/notice';
import { useUploads } from '../uploads/uploadsContext';
import { Docket } from './Docket';
import { neighboursOf } from './neighbours';

/** What an address may name a place by. */
const idForm = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/u;
/** How often it is asked whether a paper is ready that is being read. */
const againMs = 700;

/** A paper on the screen, its docket beside it. Esc goes back to where it is filed. */
export function Reader({
  initial,
  reading,
  version,
  opensAt = null,
}: {
  readonly initial: PaperDocket;
  readonly reading: ReadablePaper;
  /** The version that is asked for; null: the current one, whichever that is. */
  readonly version: number | null;
  /** The attachment at which it is opened. */
  readonly opensAt?: Pick<Attachment, 'number' | 'name'> | null;
}) {
  const router = useRouter();
  const { data } = useAsk('paper.docket', { documentId: initial.id }, { initialData: initial });
  const paper = data ?? initial;
  // The ledger from which the paper was opened: its place, sort and conditions.
  const asked = useSearchParams();
  const from = asked.get('from');
  const at = asked.get('at') ?? '';
  const room = at === 'all' || at === 'find' ? `/${at}` : `/place/${idForm.test(at) ? at : paper.homeId}`;
  const back = `${room}?${from ?? `paper=${paper.id}`}`;
  const isNarrow = useNarrow();
  const [docket, setDocket] = useState<'shown' | 'folded'>('shown');
  const [sheet, setSheet] = useState(false);
  const [attachment, setAttachment] = useState<Pick<Attachment, 'number' | 'name'> | null>(opensAt);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const busy = event.defaultPrevented || document.querySelector('[role="dialog"],[role="menu"]') !== null;
      const typing = isTyping(event.target);
      if (event.key !== 'Escape' || busy || typing) return;
      if (attachment) setAttachment(null);
      else router.push(back);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [router, back, attachment]);

  const firstPage = Number(asked.get('page'));
  const { offerVersion } = useUploads();
  const fileIt = useAct('paper.fileAttachment');
  const drop = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    disabled: !paper.capabilities.includes('amend') || paper.still !== null || paper.disposedAt !== null,
    onDrop: ([file]) => {
      const place = { id: paper.homeId, name: paper.homePath.at(-1)?.name ?? 'its place' };
      if (file) offerVersion(file, { id: paper.id, title: paper.title, place });
    },
  });
  return (
    <div {...drop.getRootProps()} className="relative flex min-h-0 min-w-0 flex-1">
      <main id="main" className="flex min-w-0 flex-1 flex-col">
        <div className="no-print flex items-center gap-3 border-b border-line bg-sheet px-4 py-1.5">
          {attachment ? (
            <Button look="quiet" className="!px-0" onClick={() => setAttachment(null)}>
              Back to the mail
            </Button>
          ) : (
            <Link href={back} className="shrink-0 text-brine-ink hover:underline">
              Back<span className="max-sm:hidden"> to {paper.homePath.at(-1)?.name ?? 'its place'}</span>
            </Link>
          )}
          <h1 className="min-w-0 flex-1 truncate font-condensed text-lg">{attachment?.name ?? paper.title}</h1>
          {!attachment && <Turn paperId={paper.id} />}
          {attachment && paper.capabilities.includes('take') && paper.capabilities.includes('add') && (
            <Button
              disabled={fileIt.isPending}
              onClick={() =>
                fileIt.mutate(
                  { documentId: paper.id, attachment: attachment.number },
                  {
                    onSuccess: ({ documentId, wasThere }) =>
                      say.done(
                        `“${attachment.name}” ${wasThere ? 'is filed already, beside the mail' : 'is filed beside the mail'}`,
                        { label: 'Open it', act: () => router.push(`/paper/${documentId}`) },
                      ),
                  },
                )
              }
            >
              File as a paper
            </Button>
          )}
          {attachment && paper.capabilities.includes('take') && (
            <a
              href={`/api/paper/${paper.id}/content?attachment=${attachment.number}&copy`}
              className="inline-flex h-[30px] shrink-0 items-center rounded-sm border border-line px-3 hover:border-edge"
            >
              Download
            </a>
          )}
          <Button
            aria-pressed={isNarrow ? sheet : docket === 'shown'}
            onClick={() => (isNarrow ? setSheet(true) : setDocket(docket === 'shown' ? 'folded' : 'shown'))}
          >
            Docket
          </Button>
        </div>
        {!attachment && <SignBar paper={paper} shownVersion={version ?? paper.versions[0]?.number ?? 1} />}
        {!attachment && version !== null && version !== paper.versions[0]?.number && (
          <p className="no-print border-b border-line bg-mist px-4 py-1.5 text-sm">
            This is version {version} as it was filed.{' '}
            <Link href={`/paper/${paper.id}`} className="text-brine-ink hover:underline">
              Read the current one
            </Link>
          </p>
        )}
        <div className="min-h-0 flex-1 bg-mist">
          <Content
            key={attachment?.number ?? `version ${version ?? 'current'}`}
            version={version}
            documentId={paper.id}
            title={attachment?.name ?? paper.title}
            attachment={attachment?.number ?? null}
            initial={attachment || (version === null && reading.sha256 !== paper.sha256) ? null : reading}
            startAt={Number.isInteger(firstPage) && firstPage > 0 ? firstPage : null}
            onAttachment={setAttachment}
          />
        </div>
      </main>
      {docket === 'shown' && (
        <aside
          aria-label="Docket"
          className="no-print hidden w-[318px] shrink-0 overflow-y-auto border-l border-line bg-sheet min-[900px]:block"
        >
          <Docket documentId={paper.id} />
        </aside>
      )}
      <Dialog title="Docket" shape="sheet" open={sheet && isNarrow} onClose={() => setSheet(false)}>
        <Docket documentId={paper.id} />
      </Dialog>
      {drop.isDragActive && (
        <div className="pointer-events-none absolute inset-2 z-20 grid place-items-center rounded-sm border-2 border-dashed border-brine-ink bg-brine-wash/85 font-condensed text-xl">
          Drop as a new version of {paper.title}
        </div>
      )}
    </div>
  );
}

/** The next and the previous paper of the view from which this one was opened. */
function Turn({ paperId }: { readonly paperId: string }) {
  const router = useRouter();
  const asked = useSearchParams();
  // Known to this window alone: on the server there is none.
  const { before, after } = useSyncExternalStore(
    nothingToHear,
    () => stable(neighboursOf(paperId)),
    () => none,
  );
  const go = (id: string) => {
    const next = new URLSearchParams(asked);
    const from = new URLSearchParams(next.get('from') ?? '');
    from.set('paper', id);
    next.set('from', from.toString());
    next.delete('page');
    router.push(`/paper/${id}?${next.toString()}`);
  };
  if (before === null && after === null) return null;
  return (
    <span className="flex gap-1.5">
      <Button aria-label="Previous paper" disabled={before === null} onClick={() => before && go(before)}>
        <CaretLeftIcon size={13} weight="bold" aria-hidden />
      </Button>
      <Button aria-label="Next paper" disabled={after === null} onClick={() => after && go(after)}>
        <CaretRightIcon size={13} weight="bold" aria-hidden />
      </Button>
    </span>
  );
}

const none = { before: null, after: null };
const nothingToHear = () => () => undefined;
let last: ReturnType<typeof neighboursOf> = none;
/** The same object while it says the same, as a store has to give. */
function stable(next: ReturnType<typeof neighboursOf>) {
  if (next.before !== last.before || next.after !== last.after) last = next;
  return last;
}

function Content({
  documentId,
  title,
  version,
  attachment,
  initial,
  startAt,
  onAttachment,
}: {
  readonly documentId: string;
  readonly title: string;
  readonly version: number | null;
  readonly attachment: number | null;
  readonly initial: ReadablePaper | null;
  /** The page that the address names. */
  readonly startAt: number | null;
  readonly onAttachment: (attachment: Attachment) => void;
}) {
  const { data, error } = useAsk(
    'paper.reading',
    { documentId, version, attachment },
    { ...(initial === null ? {} : { initialData: initial }), again: (paper) => isUnderWay(paper) && againMs },
  );
  const source = useMemo(
    () =>
      data &&
      sourceOf(
        `/api/paper/${documentId}/content`,
        title,
        data,
        { ...(version === null ? {} : { version }), ...(attachment === null ? {} : { attachment }) },
        { documentId, version, attachment },
      ),
    [data, documentId, title, version, attachment],
  );
  if (!source)
    return (
      <p className="p-6 text-soft" aria-busy={error === null}>
        {error === null ? 'Opening the paper…' : 'This paper is not here, or no longer open to you.'}
      </p>
    );
  return (
    <PaperContent
      key={source.paper.sha256}
      source={source}
      startAt={startAt ?? source.paper.page}
      onAttachment={attachment === null ? onAttachment : null}
    />
  );
}
