'use client';

import { useState } from 'react';
import type { PaperDocket } from '@/core/documents/model';
import { isUnderWay } from '@/core/reading/stages';
import { opennessInWords } from '@/core/access/words';
import { counted, sizeInWords } from '@/core/text/measure';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import { AccessSheetDialog } from '../access/AccessSheetDialog';
import { asHeld, useHand } from '../hand/HandProvider';
import { Link } from '../kit/link';
import { LabelTag } from '../labels/LabelTag';
import { labelsAmong, useLabels } from '../labels/useLabels';
import { DocketValues } from '../columns/DocketValues';
import { JournalList } from '../journal/JournalList';
import { Button } from '../kit/button';
import { OutsideLinkDialog } from '../links/OutsideLinkDialog';
import { Menu } from '../kit/menu';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { OpenAsNoteDialog } from '../notes/OpenAsNoteDialog';
import { useFollow } from '../follow/useFollow';
import { useBookmarkable } from '../bookmarks/useBookmarks';
import { HoldDialog } from '../holds/HoldDialog';
import { KeepingPart } from '../retention/KeepingPart';
import { ReviewPart } from '../reviews/ReviewPart';
import { SignaturesPart } from '../signoff/SignaturesPart';
import { tellOfSeal } from '../signoff/tellOfSeal';
import { CopyDialog } from './CopyDialog';
import { CoverDialog } from './CoverDialog';
import { CrossFileDialog } from './CrossFileDialog';
import { MuchLike } from './MuchLike';
import { NewVersion } from './NewVersion';
import { droppableOn } from '../uploads/versionDrop';
import { CopyOf } from './CopyOf';
import { FiledIn } from './FiledIn';
import { MovePapersDialog } from './MovePapersDialog';
import { RemarkEditor } from './RemarkEditor';
import { RenameInPlace } from './RenameInPlace';
import { usePaperActs } from './usePaperActs';
import { VersionList } from './VersionList';
import { WhatIsInIt } from './WhatIsInIt';

/** How often it is asked whether more is known of a paper that is being read. */
const againMs = 1500;

/** The panel with everything about the selected paper. */
export function Docket({ documentId }: { readonly documentId: string }) {
  const { data, error } = useAsk(
    'paper.docket',
    { documentId },
    { again: ({ reading }) => isUnderWay(reading) && againMs },
  );
  if (error) {
    return <p className="p-4 text-soft">This paper is not here, or no longer open to you.</p>;
  }
  if (!data)
    return (
      <p className="p-4 text-soft" aria-busy>
        Loading the docket…
      </p>
    );
  return <Shown key={data.id} paper={data} />;
}

const Heading = ({ children }: { readonly children: string }) => (
  <h3 className="mb-1 w-full font-condensed text-[11.5px] tracking-wide text-soft uppercase">{children}</h3>
);

const stillWords: Readonly<Record<NonNullable<PaperDocket['still']>, string>> = {
  locked: 'Locked: it is not changed, renamed, moved or disposed of.',
  lockedPlace: 'It lies in a locked place, where nothing is changed.',
  closedPlace: 'It lies in a closed place, where nothing is filed or changed.',
};

const wordDocument = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';

/** A note as a file of another kind. */
const noteDownloads = [
  ['Download as Word', 'docx'],
  ['Download as PDF', 'pdf'],
  ['Download as Markdown', 'md'],
] as const;

const section = 'border-t border-line px-4 py-3';

function Shown({ paper }: { readonly paper: PaperDocket }) {
  const around = useSurroundings();
  const [dialog, setDialog] = useState<'move' | 'file' | 'copy' | 'access' | 'link' | 'cover' | 'note' | 'hold' | null>(
    null,
  );
  const [renaming, setRenaming] = useState(false);
  const rename = useAct('paper.rename');
  const acts = usePaperActs();
  const setStart = useAct('note.setStart');
  const lock = (locked: boolean) => void acts.lock([paper], locked);
  const labels = useLabels();
  const hand = useHand();
  const may = new Set(paper.capabilities);
  const moment = (at: string) => (
    <time dateTime={at} title={momentInWords(at, around.timeZone)}>
      {whenInWords(at, around.now, around.timeZone)}
    </time>
  );
  const facts: readonly (readonly [string, React.ReactNode])[] = [
    ['Filed by', paper.filedBy],
    ['Filed', moment(paper.filedAt)],
    ['Changed', moment(paper.changedAt)],
    ['Changed by', paper.changedBy],
    ...(paper.wordCount === null ? [] : [['Words', paper.wordCount.toLocaleString('en-GB')] as const]),
    [
      'File',
      <span key="file" className="break-all">
        {paper.fileName}
      </span>,
    ],
  ];
  const noteActs = [
    ...(paper.mediaType === wordDocument && may.has('take')
      ? [{ label: 'Open as a note…', act: () => setDialog('note') }]
      : []),
    ...(paper.isNote && may.has('take')
      ? noteDownloads.map(([label, as]) => ({
          label,
          act: () => location.assign(`/api/paper/${paper.id}/content?copy&as=${as}`),
        }))
      : []),
    ...(paper.isNote && around.me.keeper
      ? [
          {
            label: paper.isStart ? 'No longer a start for notes' : 'Offer as a start for notes',
            act: () => setStart.mutate({ documentId: paper.id, isStart: !paper.isStart }),
          },
        ]
      : []),
    ...(may.has('amend') && paper.still === null ? [{ label: 'Cover picture…', act: () => setDialog('cover') }] : []),
  ];
  const bookmarking = useBookmarkable({ on: { kind: 'paper', ref: paper.id }, name: paper.title });
  const following = useFollow('paper', paper.id, paper.title);
  const more = [
    ...noteActs,
    ...bookmarking,
    ...following,
    ...(paper.mediaType === 'application/pdf' ? [{ label: 'Check its seal', act: () => tellOfSeal(paper.id) }] : []),
    ...(may.has('amend') ? [{ label: 'Rename', keys: 'F2', act: () => setRenaming(true) }] : []),
    ...(may.has('manage') && paper.still === null ? [{ label: 'Move…', act: () => setDialog('move') }] : []),
    { label: 'File elsewhere as well…', act: () => setDialog('file') },
    ...(may.has('take') ? [{ label: 'Copy…', act: () => setDialog('copy') }] : []),
    ...(may.has('manage') ? [{ label: 'Outside link…', act: () => setDialog('link') }] : []),
    ...(may.has('manage')
      ? [
          paper.still === 'locked'
            ? { label: 'Unlock', act: () => lock(false) }
            : { label: 'Lock against change', act: () => lock(true) },
        ]
      : []),
    ...(around.me.keeper && around.seenBy === null ? [{ label: 'Hold…', act: () => setDialog('hold') }] : []),
    ...(may.has('amend')
      ? [{ label: 'Dispose of', keys: 'Del', act: () => void acts.dispose([paper]), apart: true }]
      : []),
  ];

  return (
    <div
      className="pb-6"
      {...(may.has('amend') && droppableOn({ ...paper, homeName: paper.homePath.at(-1)?.name ?? '' }))}
    >
      {paper.disposedAt !== null && (
        <div className="flex items-center gap-2 border-b border-straw-edge bg-straw px-4 py-2 text-straw-ink">
          <span className="flex-1">In the disposal tray.</span>
          <Button look="straw" onClick={() => void acts.putBack([paper]).catch(() => undefined)}>
            Put back
          </Button>
        </div>
      )}
      {paper.still !== null && (
        <div className="flex items-center gap-2 border-b border-line bg-fog px-4 py-2">
          <span className="flex-1">{stillWords[paper.still]}</span>
          {paper.still === 'locked' && may.has('manage') && <Button onClick={() => lock(false)}>Unlock</Button>}
        </div>
      )}
      {paper.hasPicture && (
        <Link
          href={`/paper/${paper.id}`}
          className="mx-4 mt-4 grid h-[150px] place-items-center overflow-hidden border border-line bg-mist"
        >
          {/* The picture has an address of its own behind the gate; the framework's image server would go round it. */}
          <img
            src={`/api/paper/${paper.id}/picture?of=${paper.sha256.slice(0, 12)}&r=${paper.revision}`}
            alt={`First page of ${paper.title}`}
            className="max-h-[142px] max-w-[90%] border border-line shadow-sm"
          />
        </Link>
      )}
      <div className="px-4 py-3">
        {renaming ? (
          <RenameInPlace
            label="Title"
            value={paper.title}
            onSave={(title) => rename.mutateAsync({ documentId: paper.id, title, revision: paper.revision })}
            onClose={() => setRenaming(false)}
          />
        ) : (
          <h2 className="font-condensed text-lg leading-snug break-words">{paper.title}</h2>
        )}
        <p className="figures mt-0.5 text-sm text-soft">
          {paper.stamp} · {paper.pageCount !== null && `${counted(paper.pageCount, 'page')} · `}
          {sizeInWords(paper.sizeBytes)} · version {paper.versions[0]?.number ?? 1}
        </p>
        <div className="mt-2.5 flex flex-wrap gap-2">
          <Link
            href={`/paper/${paper.id}`}
            className="inline-flex h-[30px] items-center rounded-sm border border-brine bg-brine px-3 font-semibold text-on-brine hover:brightness-110"
          >
            Read
          </Link>
          {paper.isNote && may.has('amend') && paper.still === null && paper.disposedAt === null && (
            <Link
              href={`/paper/${paper.id}/write`}
              className="inline-flex h-[30px] items-center rounded-sm border border-line px-3 hover:border-edge"
            >
              Write
            </Link>
          )}
          {may.has('take') && (
            <a
              href={`/api/paper/${paper.id}/content?copy`}
              className="inline-flex h-[30px] items-center rounded-sm border border-line px-3 hover:border-edge"
            >
              Download
            </a>
          )}
          {more.length > 0 && paper.disposedAt === null && (
            <Menu label="More" name="More to do with this paper" acts={more} />
          )}
        </div>
      </div>
      <DocketValues documentIds={[paper.id]} placeId={paper.homeId} />
      <div className={`${section} flex flex-wrap items-center gap-1.5`}>
        <Heading>Labels</Heading>
        {labelsAmong(labels, paper.labels).map((label) => (
          <LabelTag key={label.id} label={label} within="docket" />
        ))}
        <Button
          look="quiet"
          className="!h-[24px] !px-1"
          onClick={() => {
            hand.putAllDown();
            hand.pickUp([asHeld(paper, paper.homePath.at(-1)?.name ?? 'its place')]);
            hand.setLabelling(true);
          }}
        >
          {paper.labels.length === 0 ? 'Put a label on it' : 'Change'}
        </Button>
      </div>
      <div className={section}>
        <Heading>Review</Heading>
        <ReviewPart paper={{ id: paper.id, title: paper.title, versionNumber: paper.versions[0]?.number ?? 1 }} />
      </div>
      <div className={section}>
        <Heading>Signatures</Heading>
        <SignaturesPart paper={{ id: paper.id, title: paper.title }} />
      </div>
      <div className={section}>
        <Heading>Kept</Heading>
        <KeepingPart documentId={paper.id} />
      </div>
      <dl className={`${section} grid grid-cols-[84px_minmax(0,1fr)] gap-y-1`}>
        {facts.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <div className={section}>
        <Heading>What is in it</Heading>
        <WhatIsInIt paper={paper} mayAmend={may.has('amend')} />
      </div>
      <MuchLike documentId={paper.id} />
      {(paper.remark !== '' || may.has('amend')) && (
        <div className={section}>
          <Heading>Remark</Heading>
          <RemarkEditor
            key={paper.id}
            documentId={paper.id}
            remark={paper.remark}
            revision={paper.revision}
            mayAmend={may.has('amend')}
          />
        </div>
      )}
      <div className={section}>
        <Heading>Filed in</Heading>
        <FiledIn paper={paper} />
        {paper.origin && <CopyOf paper={paper} origin={paper.origin} />}
      </div>
      <div className={section}>
        <Heading>Who can open it</Heading>
        <p>
          {opennessInWords(paper.openTo, paper.capabilities)}
          {may.has('manage') && paper.disposedAt === null && (
            <Button look="quiet" className="ml-1" onClick={() => setDialog('access')}>
              See who
            </Button>
          )}
        </p>
      </div>
      <div className={section}>
        <Heading>Versions</Heading>
        {may.has('amend') && paper.disposedAt === null && paper.still === null && <NewVersion paper={paper} />}
        <VersionList paper={paper} />
      </div>
      <div className={section}>
        <Heading>Journal</Heading>
        <JournalList subject="document" id={paper.id} mayUndo={may.has('amend')} mayManage={may.has('manage')} />
      </div>
      <MovePapersDialog papers={[paper]} open={dialog === 'move'} onClose={() => setDialog(null)} />
      {dialog === 'file' && (
        <CrossFileDialog papers={[paper]} mayOpen={may.has('manage')} onClose={() => setDialog(null)} />
      )}
      {dialog === 'copy' && <CopyDialog papers={[paper]} onClose={() => setDialog(null)} />}
      {dialog === 'hold' && (
        <HoldDialog
          on={{ placeIds: [], documentIds: [paper.id], views: [] }}
          what={`“${paper.title}”`}
          onClose={() => setDialog(null)}
        />
      )}
      {dialog === 'cover' && <CoverDialog paper={paper} onClose={() => setDialog(null)} />}
      {dialog === 'note' && <OpenAsNoteDialog paper={paper} onClose={() => setDialog(null)} />}
      {dialog === 'link' && (
        <OutsideLinkDialog on={{ kind: 'paper', id: paper.id }} name={paper.title} onClose={() => setDialog(null)} />
      )}
      {dialog === 'access' && (
        <AccessSheetDialog on={{ kind: 'paper', id: paper.id }} onClose={() => setDialog(null)} />
      )}
    </div>
  );
}
