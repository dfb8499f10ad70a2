'use client';

import { useState } from 'react';
import type { PackEntryRow, PackSheet, PageFault } from '@/core/packs/contract';
import { Refusal } from '@/core/errors/refusal';
import { readPageChoice } from '@/core/packs/pageChoice';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { TextField } from '../kit/field';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { Stamp } from '../kit/stamp';
import { OutlineLine } from '../outline/Outline';
import { shiftActs } from '../outline/shiftActs';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import type { usePackActs } from './usePackActs';

/** What keeps a paper from being pages, in words. */
const faultWords: Readonly<Record<PageFault, string>> = {
  notRead: 'still being read',
  noPages: 'has no pages: it is listed as a file',
  protected: 'protected by a password: it is listed as a file',
  damaged: 'damaged: it is listed as a file',
  disposed: 'lies in the disposal tray',
};

const shiftWords = {
  up: 'Move up',
  down: 'Move down',
  in: 'Put into the section above',
  out: 'Take out of its section',
} as const;

/** How many pages of an entry go into the pack. */
export function pagesOf({ paper, pages }: PackEntryRow): number {
  if (!paper || paper.fault !== null) return 0;
  const read = readPageChoice(pages, paper.pageCount ?? 0);
  return read.ok ? read.value.length : 0;
}

/** A section of a pack, or a paper in it. */
export function EntryLine({
  entry,
  depth,
  sheet,
  acts,
  isTarget,
  onTarget,
}: {
  readonly entry: PackEntryRow;
  readonly depth: number;
  readonly sheet: PackSheet;
  readonly acts: ReturnType<typeof usePackActs>;
  /** Whether papers are added into this section. */
  readonly isTarget: boolean;
  readonly onTarget: (on: boolean) => void;
}) {
  const [changing, setChanging] = useState(false);
  const { kind, title, paper, readers } = entry;
  const { mayChange } = sheet;
  const isHidden = kind === 'paper' && paper === null;
  const moves = shiftActs(
    sheet.entries,
    entry.id,
    shiftWords,
    (parentId) => sheet.entries.find(({ id }) => id === parentId)?.kind !== 'paper',
    (shift) => acts.shift(entry.id, shift),
  );
  const about = [
    paper && paper.title !== title ? `“${paper.title}”` : '',
    paper && paper.fault === null ? counted(pagesOf(entry), 'page') : '',
    paper && paper.fault === null && entry.pages !== '' ? `pages ${entry.pages} of ${paper.pageCount ?? '?'}` : '',
    paper?.heldVersion ? `version ${paper.heldVersion} is held` : '',
    readers === null
      ? ''
      : readers.length === 0
        ? 'confidential: for nobody yet'
        : `confidential: for ${readers.map(({ name }) => name).join(', ')}`,
  ].filter((each) => each !== '');
  return (
    <OutlineLine
      id={entry.id}
      name={title}
      depth={depth}
      mayMove={mayChange && !changing && !isHidden}
      onShift={(shift) => acts.shift(entry.id, shift)}
    >
      {paper && <Stamp word={paper.stamp} />}
      <div className="min-w-0 flex-1">
        {changing ? (
          <EntryForm entry={entry} onClose={() => setChanging(false)} />
        ) : (
          <>
            {paper ? (
              <Link
                href={`/paper/${paper.documentId}${paper.heldVersion === null ? '' : `?version=${paper.heldVersion}`}`}
                className="inline-flex min-h-[24px] items-center text-brine-ink hover:underline"
              >
                {title}
              </Link>
            ) : (
              <p className={isHidden ? 'text-soft italic' : 'font-medium'}>{title}</p>
            )}
            {about.length > 0 && <p className="text-sm text-soft">{about.join(' · ')}</p>}
            {paper && paper.fault !== null && <p className="text-sm text-ember-ink">{faultWords[paper.fault]}</p>}
          </>
        )}
      </div>
      {mayChange && !changing && (
        <span className="flex shrink-0 items-center">
          {kind === 'section' && (
            <Button
              look="quiet"
              aria-pressed={isTarget}
              aria-label={`Add papers into ${title}`}
              className="aria-pressed:bg-straw aria-pressed:text-straw-ink"
              onClick={() => onTarget(!isTarget)}
            >
              {isTarget ? 'Adding here' : 'Add here'}
            </Button>
          )}
          <Menu
            label="More"
            look="quiet"
            name={`More to do with ${title}`}
            acts={[
              ...(isHidden
                ? []
                : [{ label: kind === 'section' ? 'Rename…' : 'Title and pages…', act: () => setChanging(true) }]),
              ...moves,
              { label: 'Take out of the pack', act: () => acts.remove(entry), apart: true },
            ]}
          />
        </span>
      )}
    </OutlineLine>
  );
}

function EntryForm({ entry, onClose }: { readonly entry: PackEntryRow; readonly onClose: () => void }) {
  const change = useAct('pack.changeEntry', { quiet: true });
  const [title, setTitle] = useState(entry.title);
  const [pages, setPages] = useState(entry.pages);
  const { paper } = entry;
  const [held, setHeld] = useState(paper?.heldVersion ?? null);
  const issue = change.error instanceof Refusal ? change.error.issue : null;
  const wrong = (path: string) => issue?.fields?.find((field) => field.path === path)?.says;
  return (
    <form
      noValidate
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate(
          {
            entryId: entry.id,
            title,
            pages,
            heldVersion: held,
            readers: entry.readers?.map(({ personId }) => personId) ?? null,
          },
          { onSuccess: onClose },
        );
      }}
    >
      <TextField
        label="Title in the pack"
        autoFocus
        value={title}
        maxLength={300}
        wrong={wrong('title')}
        help={paper ? 'The paper itself keeps its own.' : undefined}
        onChange={({ target }) => setTitle(target.value)}
      />
      {paper && (
        <>
          <TextField
            label="Pages"
            value={pages}
            maxLength={200}
            placeholder={`All ${paper.pageCount ?? ''}`.trim()}
            help="Such as 1-3, 7; or 5- for page 5 and all after it."
            wrong={wrong('pages')}
            onChange={({ target }) => setPages(target.value)}
          />
          <label className="mb-3 flex items-center gap-2">
            <input
              type="checkbox"
              checked={held !== null}
              onChange={({ target }) => setHeld(target.checked ? paper.currentVersion : null)}
              className="size-[15px] accent-brine"
            />
            Hold version {held ?? paper.currentVersion}, also when a newer one comes
          </label>
        </>
      )}
      {issue && !issue.fields && (
        <p role="alert" className="mb-2 text-sm text-ember-ink">
          {saysOf(change.error)}
        </p>
      )}
      <span className="mb-1 flex gap-2">
        <Button type="submit" disabled={change.isPending}>
          Save
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
      </span>
    </form>
  );
}
