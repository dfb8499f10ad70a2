'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { droppedFiles } from './droppedFiles';
import { kindFamilies } from '@/core/files/fileKind';
import { counted, sizeInWords } from '@/core/text/measure';
import type { Foreseen, SameName } from '@/core/uploads/model';
import type { QueueItem } from '@/core/uploads/queue';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { call } from '../server/call';
import { useSurroundings } from '../surroundings/Surroundings';
import { goOn } from './goOn';
import { offered, queued, type OfferedFile } from './offeredFiles';
import { OfferedList } from './OfferedList';
import type { PickItem } from '../kit/pick';
import { PickButtons } from './PickButtons';
import { WhomToTell } from './WhomToTell';
import { useAlike } from './useAlike';
import { Opened } from './Opened';
import { useUnpacking } from './useUnpacking';
import { useUploads, type ReceivingPlace } from './uploadsContext';

interface Props {
  readonly place: ReceivingPlace;
  readonly files: readonly OfferedFile[];
  /** Told of each paper that came of them. */
  readonly then?: ((documentId: string) => void) | undefined;
  readonly onClose: () => void;
}

/** Where chosen files are looked over and filed: the place named in the button, titles, a remark, and one answer for all names that are taken. */
export function FileDialog(props: Props) {
  const { library, me } = useSurroundings();
  const { queue } = useUploads();
  const [place, setPlace] = useState(props.place);
  const [choosing, setChoosing] = useState(false);
  const [files, setFiles] = useState<OfferedFile[]>([...props.files]);
  const unpacking = useUnpacking(files, setFiles);
  const { shown } = unpacking;
  const [remark, setRemark] = useState('');
  const [sameName, setSameName] = useState<SameName | null>(null);
  const [told, setTold] = useState<readonly PickItem[]>([]);
  const going = useMemo(() => shown.filter((each) => each.refused === null), [shown]);
  const foreseen = useForeseen(place.id, going);
  const clashes = new Set(foreseen.taken);
  const alike = useAlike(going);
  const again = going.filter((each) => alike.has(each.key));

  const more = (added: readonly File[]) => setFiles([...files, ...offered(added, library)]);
  const drop = useDropzone({ noClick: true, noKeyboard: true, getFilesFromEvent: droppedFiles, onDrop: more });

  function file() {
    // Those of an archive that was broken off are known only now that it is unpacked.
    void goOn(me.id, queue, shown).then((others) =>
      queue.add(
        others.map((each) => ({ file: each.file, item: queueItem(each, place, remark, sameName, told) })),
        props.then,
      ),
    );
    props.onClose();
  }

  const setTitle = (key: string, title: string) =>
    setFiles(files.map((each) => (each.key === key ? { ...each, title } : each)));
  const ready =
    going.length > 0 &&
    unpacking.underWay === null &&
    (clashes.size === 0 || sameName !== null) &&
    going.every((each) => each.title.trim() !== '');
  const refused = files.length - going.length;
  const toMake = Object.values(foreseen.folders).filter((is) => is === 'made').length;

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
        <OfferedList
          files={shown}
          folders={foreseen.folders}
          clashes={clashes}
          alike={alike}
          unpacking={unpacking}
          onTitle={setTitle}
          onLeaveOut={(keys) => setFiles(files.filter((each) => !keys.has(each.key)))}
        />
      </div>
      <Opened {...unpacking} />
      {files.length > 1 && (
        <p role="status" className="figures mt-2 text-sm text-soft">
          {counted(going.length, 'file')}, {sizeInWords(going.reduce((sum, { file: each }) => sum + each.size, 0))}
          {toMake > 0 && ` · ${counted(toMake, 'folder')} will be made`}
          {refused > 0 && <span className="text-ember-ink"> · {refused} will not be sent</span>}
        </p>
      )}
      {again.length > 0 && (
        <p role="status" className="mt-3 flex flex-wrap items-center gap-x-3 text-ember-ink">
          {counted(again.length, 'file has', 'files have')} the content of a paper that is in the library already.
          <Button onClick={() => setFiles(files.filter((each) => !alike.has(each.key)))}>
            Leave {again.length === 1 ? 'it' : 'them'} out
          </Button>
        </p>
      )}
      {clashes.size > 0 && (
        <fieldset className="mt-3 rounded-sm border border-ember bg-ember-wash px-4 py-2">
          <legend className="px-1 font-condensed">
            {counted(clashes.size, 'title is', 'titles are')} there already
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
          label="Remark on these papers"
          help="Optional; it stands in each paper’s docket."
          value={remark}
          maxLength={4000}
          rows={2}
          onChange={(event) => setRemark(event.target.value)}
        />
        <WhomToTell told={told} onTold={setTold} />
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

/** What one question may ask about. */
const mostAsked = 5000;
/** Titles that are still being typed are not asked about. */
const restMs = 300;

/** What would become of the files in a place: folders by path, and the keys of those whose title is taken. */
function useForeseen(placeId: string, files: readonly OfferedFile[]) {
  const settled = useSettled(files, restMs);
  const { data } = useQuery({
    queryKey: ['foreseen', placeId, settled],
    enabled: settled.length > 0,
    placeholderData: keepPreviousData,
    queryFn: async () => {
      const folders: Record<string, Foreseen['folders'][string]> = {};
      const taken: string[] = [];
      for (let at = 0; at < settled.length; at += mostAsked) {
        const some = settled.slice(at, at + mostAsked);
        const asked = some.map(({ relativePath, title }) => ({ relativePath, title: title.slice(0, 1000) }));
        const answer = await call('uploads.foresee', { placeId, files: asked });
        Object.assign(folders, answer.folders);
        taken.push(...answer.taken.flatMap((index) => some[index]?.key ?? []));
      }
      return { folders, taken };
    },
  });
  return data ?? nothingForeseen;
}

const nothingForeseen: { readonly folders: Foreseen['folders']; readonly taken: readonly string[] } = {
  folders: {},
  taken: [],
};

/** A value once it has not changed for a while. */
function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return settled;
}

function queueItem(
  each: OfferedFile,
  place: ReceivingPlace,
  remark: string,
  onSameName: SameName | null,
  told: readonly PickItem[],
): QueueItem {
  return {
    ...queued(each, place),
    title: each.title.trim(),
    remark: remark.trim(),
    onSameName,
    tell: told.map((person) => person.id),
  };
}
