'use client';

import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { kindFamilies } from '@/core/files/fileKind';
import { counted, sizeInWords } from '@/core/text/measure';
import { nameKey } from '@/core/text/fold';
import type { SameName } from '@/core/uploads/model';
import type { QueueItem } from '@/core/uploads/queue';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { offered, type OfferedFile } from './offeredFiles';
import { PickButtons } from './PickButtons';
import { useUploads, type ReceivingPlace } from './uploadsContext';

interface Props {
  readonly place: ReceivingPlace;
  readonly files: readonly OfferedFile[];
  /** Told of each paper that came of them. */
  readonly then?: ((documentId: string) => void) | undefined;
  readonly onClose: () => void;
}

/** Where chosen files are looked over and filed: the place named in the button, titles, a note, and one answer for all names that are taken. */
export function FileDialog(props: Props) {
  const { library } = useSurroundings();
  const { queue } = useUploads();
  const [place, setPlace] = useState(props.place);
  const [choosing, setChoosing] = useState(false);
  const [files, setFiles] = useState(props.files);
  const [note, setNote] = useState('');
  const [sameName, setSameName] = useState<SameName | null>(null);
  const going = files.filter((each) => each.refused === null);
  const plain = going.filter((each) => each.relativePath === '');
  const names = useAsk(
    'uploads.sameNames',
    { placeId: place.id, titles: plain.map((each) => each.title.slice(0, 1000)) },
    { enabled: plain.length > 0 },
  );
  const taken = new Set(names.data?.titles.map(nameKey));
  const clashes = plain.filter((each) => taken.has(nameKey(each.title)));

  const more = (added: readonly File[]) => setFiles([...files, ...offered(added, library.maxFileBytes)]);
  const drop = useDropzone({ noClick: true, noKeyboard: true, onDrop: more });

  function file() {
    queue.add(
      files.map((each) => ({ file: each.file, item: queueItem(each, place, note, sameName) })),
      props.then,
    );
    props.onClose();
  }

  const setTitle = (key: string, title: string) =>
    setFiles(files.map((each) => (each.key === key ? { ...each, title } : each)));
  const ready =
    going.length > 0 && (clashes.length === 0 || sameName !== null) && going.every((each) => each.title.trim() !== '');

  return (
    <Dialog
      title={`File papers in ${place.name}`}
      about={`${library.families.map((family) => kindFamilies[family]).join(', ')}. Up to ${sizeInWords(library.maxFileBytes)} each.`}
      open
      onClose={props.onClose}
      shape="wide"
    >
      {choosing ? (
        <PlaceChooser
          label="Where to file"
          capability="add"
          onChoose={(chosen) => {
            setPlace(chosen);
            setChoosing(false);
          }}
        />
      ) : (
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <PickButtons onPick={more} />
          <Button onClick={() => setChoosing(true)}>Another place…</Button>
        </div>
      )}
      <div
        {...drop.getRootProps()}
        className={`rounded-sm border border-dashed ${drop.isDragActive ? 'border-brine-ink bg-brine-wash' : 'border-edge'}`}
      >
        {files.length === 0 && (
          <p className="px-4 py-8 text-center text-soft">Drop files or folders here, or choose them above.</p>
        )}
        <ul aria-label="Files to be filed" className="max-h-[34vh] overflow-y-auto">
          {files.map((each) => (
            <li
              key={each.key}
              className="grid grid-cols-[minmax(0,1fr)_84px_auto] items-center gap-2 border-b border-line px-3 py-1.5 last:border-0"
            >
              {each.refused ? (
                <span className="min-w-0">
                  <span className="block truncate line-through">{each.file.name}</span>
                  <span className="text-sm text-ember-ink">Will not be sent. {each.refused.says}</span>
                </span>
              ) : (
                <span className="min-w-0">
                  <input
                    aria-label={`Title of ${each.file.name}`}
                    value={each.title}
                    maxLength={200}
                    onChange={(event) => setTitle(each.key, event.target.value)}
                    className="h-[28px] w-full rounded-sm border border-line bg-sheet px-2"
                  />
                  <span className="block truncate text-sm text-soft">
                    {each.relativePath && `in ${each.relativePath} · `}
                    {each.file.name}
                    {clashes.includes(each) && (
                      <strong className="text-ember-ink"> · this title is there already</strong>
                    )}
                  </span>
                </span>
              )}
              <span className="figures text-right text-sm text-soft">{sizeInWords(each.file.size)}</span>
              <Button
                look="quiet"
                aria-label={`Leave out ${each.file.name}`}
                onClick={() => setFiles(files.filter((other) => other !== each))}
              >
                Leave out
              </Button>
            </li>
          ))}
        </ul>
      </div>
      {clashes.length > 0 && (
        <fieldset className="mt-3 rounded-sm border border-ember bg-ember-wash px-4 py-2">
          <legend className="px-1 font-condensed">
            {counted(clashes.length, 'title is', 'titles are')} there already
          </legend>
          {(['version', 'both'] as const).map((answer) => (
            <label key={answer} className="mr-5 inline-flex items-center gap-2">
              <input
                type="radio"
                name="same-name"
                checked={sameName === answer}
                onChange={() => setSameName(answer)}
                className="accent-brine"
              />
              {answer === 'version' ? 'File as new versions' : 'Keep both'}
            </label>
          ))}
        </fieldset>
      )}
      <div className="mt-4">
        <LongField
          label="Note on these papers"
          help="Optional; it stands in each paper’s docket."
          value={note}
          maxLength={4000}
          rows={2}
          onChange={(event) => setNote(event.target.value)}
        />
      </div>
      <DialogActs>
        <Button look="main" disabled={!ready} onClick={file}>
          File {counted(going.length, 'paper')} in {place.name}
        </Button>
        <Button onClick={props.onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}

function queueItem(each: OfferedFile, place: ReceivingPlace, note: string, onSameName: SameName | null): QueueItem {
  return {
    key: each.key,
    uploadId: null,
    fileName: each.file.name,
    sizeBytes: each.file.size,
    sentBytes: 0,
    placeId: place.id,
    placeName: place.name,
    relativePath: each.relativePath,
    title: each.title.trim(),
    note: note.trim(),
    onSameName,
    state: each.refused ? 'refused' : 'waiting',
    issue: each.refused,
    sameContent: [],
    documentId: null,
    readings: [],
  };
}
