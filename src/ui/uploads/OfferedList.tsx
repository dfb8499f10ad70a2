import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, useState } from 'react';
import { grouped } from '@/core/collections/grouped';
import { counted, sizeInWords } from '@/core/text/measure';
import type { Foreseen, SameContentPlace } from '@/core/uploads/model';
import { stepsOf } from '@/core/uploads/path';
import { Button } from '../kit/button';
import { isArchive, type OfferedFile } from './offeredFiles';
import type { useUnpacking } from './useUnpacking';

/** With more files than this, folders are folded at first. */
const mostUnfolded = 200;
const fileHeight = 56;
const folderHeight = 48;

type Row =
  | { readonly kind: 'folder'; readonly path: string; readonly files: readonly OfferedFile[]; readonly isOpen: boolean }
  | { readonly kind: 'file'; readonly file: OfferedFile };

const folderWords = {
  there: 'is there already',
  made: 'will be made',
  refused: 'may not be made by you: its papers will not be filed',
} as const;

interface Props {
  readonly files: readonly OfferedFile[];
  readonly folders: Foreseen['folders'];
  readonly clashes: ReadonlySet<string>;
  /** Papers with the same content, by the keys of files. */
  readonly alike: ReadonlyMap<string, SameContentPlace>;
  /** Unpacks archives, and tells of the one that is being unpacked. */
  readonly unpacking: Pick<ReturnType<typeof useUnpacking>, 'underWay' | 'open' | 'stop'>;
  readonly onTitle: (key: string, title: string) => void;
  readonly onLeaveOut: (keys: ReadonlySet<string>) => void;
}

/** Files that are offered for filing, as a tree of the folders they come in: what will become of each, before anything is sent. */
export function OfferedList({ files, folders, clashes, alike, unpacking, onTitle, onLeaveOut }: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
  const openFirst = files.length <= mostUnfolded;
  const rows = useMemo(() => rowsOf(files, turned, openFirst), [files, turned, openFirst]);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => (rows[index]?.kind === 'folder' ? folderHeight : fileHeight),
    overscan: 8,
  });
  const turn = (path: string) => {
    const next = new Set(turned);
    if (!next.delete(path)) next.add(path);
    setTurned(next);
  };
  return (
    <div ref={scroller} className="max-h-[34vh] overflow-y-auto">
      <ul aria-label="Files to be filed" className="relative" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start, size }) => {
          const row = rows[index];
          if (!row) return null;
          return (
            <li
              key={row.kind === 'folder' ? `folder ${row.path}` : row.file.key}
              className="absolute inset-x-0 grid grid-cols-[minmax(0,1fr)_84px_auto] max-sm:grid-cols-[minmax(0,1fr)_auto] items-center gap-2 border-b border-line px-3"
              style={{ top: start, height: size }}
            >
              {row.kind === 'folder' ? (
                <FolderRow
                  row={row}
                  is={folders[stepsOf(row.path).join('/')]}
                  onTurn={() => turn(row.path)}
                  onLeaveOut={onLeaveOut}
                />
              ) : (
                <FileRow
                  file={row.file}
                  clashes={clashes.has(row.file.key)}
                  alike={alike.get(row.file.key)}
                  unpacking={unpacking}
                  onTitle={onTitle}
                  onLeaveOut={onLeaveOut}
                />
              )}
            </li>
          );
        })}
      </ul>
    </div>
  );
}

function rowsOf(files: readonly OfferedFile[], turned: ReadonlySet<string>, openFirst: boolean): Row[] {
  const byFolder = [...grouped(files, (file) => file.relativePath)];
  // A few files, or a thousand, without folders need no heading.
  if (byFolder.every(([path]) => path === '')) return files.map((file) => ({ kind: 'file', file }));
  return byFolder
    .sort(([one], [other]) => one.localeCompare(other, 'en-GB', { numeric: true }))
    .flatMap(([path, inside]): Row[] => {
      const isOpen = path === '' || openFirst !== turned.has(path);
      const below = isOpen ? inside.map((file): Row => ({ kind: 'file', file })) : [];
      return path === '' ? below : [{ kind: 'folder', path, files: inside, isOpen }, ...below];
    });
}

function FolderRow({
  row: { path, files, isOpen },
  is,
  onTurn,
  onLeaveOut,
}: {
  readonly row: Extract<Row, { kind: 'folder' }>;
  readonly is: Foreseen['folders'][string] | undefined;
  readonly onTurn: () => void;
  readonly onLeaveOut: Props['onLeaveOut'];
}) {
  const refused = files.filter((file) => file.refused !== null).length;
  return (
    <>
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={onTurn}
        className="grid min-w-0 grid-cols-[auto_minmax(0,1fr)] gap-x-2 text-left"
      >
        <span aria-hidden className="text-soft">
          {isOpen ? '▾' : '▸'}
        </span>
        {/* Cut in front: what tells folders apart is at the end. */}
        <span dir="rtl" className="min-w-0 truncate text-left font-medium">
          <bdi>{path}</bdi>
        </span>
        <span className={`col-start-2 truncate text-sm ${is === 'refused' ? 'text-ember-ink' : 'text-soft'}`}>
          {counted(files.length, 'file')}
          {is && ` · ${folderWords[is]}`}
          {refused > 0 && <span className="text-ember-ink"> · {refused} will not be sent</span>}
        </span>
      </button>
      <span className="figures text-right text-sm text-soft max-sm:hidden">
        {sizeInWords(files.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0))}
      </span>
      <Button
        look="quiet"
        aria-label={`Leave out the folder ${path}`}
        onClick={() => onLeaveOut(new Set(files.map((file) => file.key)))}
      >
        Leave out
      </Button>
    </>
  );
}

function FileRow({
  file: each,
  clashes,
  alike,
  unpacking,
  onTitle,
  onLeaveOut,
}: {
  readonly file: OfferedFile;
  readonly clashes: boolean;
  readonly alike: SameContentPlace | undefined;
} & Pick<Props, 'unpacking' | 'onTitle' | 'onLeaveOut'>) {
  return (
    <>
      {each.refused ? (
        <span className="min-w-0">
          <span className="block truncate line-through">{each.file.name}</span>
          <span className="block truncate text-sm text-ember-ink">Will not be sent. {each.refused.says}</span>
        </span>
      ) : (
        <span className="min-w-0">
          <input
            aria-label={`Title of ${each.file.name}`}
            value={each.title}
            maxLength={200}
            onChange={(event) => onTitle(each.key, event.target.value)}
            className="h-[28px] w-full rounded-sm border border-line bg-sheet px-2"
          />
          <span className="block truncate text-sm text-soft">
            {each.file.name}
            {clashes && <strong className="text-ember-ink"> · this title is there already</strong>}
            {alike && (
              <strong className="text-ember-ink">
                {' '}
                · the same as “{alike.title}” in {alike.placeName}
              </strong>
            )}
          </span>
        </span>
      )}
      <span className="figures text-right text-sm text-soft max-sm:hidden">{sizeInWords(each.sizeBytes)}</span>
      <span className="flex items-center gap-1">
        {isArchive(each.file) && <UnpackButton file={each} {...unpacking} />}
        <Button look="quiet" aria-label={`Leave out ${each.file.name}`} onClick={() => onLeaveOut(new Set([each.key]))}>
          Leave out
        </Button>
      </span>
    </>
  );
}

function UnpackButton({ file, underWay, open, stop }: { readonly file: OfferedFile } & Props['unpacking']) {
  if (underWay?.key !== file.key)
    return (
      <Button disabled={underWay !== null} aria-label={`Unpack ${file.file.name}`} onClick={() => open(file)}>
        Unpack
      </Button>
    );
  return (
    <>
      <span role="status" className="figures text-sm text-soft">
        {underWay.of === 0
          ? 'Opening'
          : `${underWay.done.toLocaleString('en-GB')} of ${underWay.of.toLocaleString('en-GB')}`}
      </span>
      <Button aria-label={`Stop unpacking ${file.file.name}`} onClick={stop}>
        Stop
      </Button>
    </>
  );
}
