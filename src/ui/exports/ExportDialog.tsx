'use client';

import { useEffect, useRef, useState } from 'react';
import type { InputOf } from '@/core/contract';
import { exportFolders, type ExportFolders } from '@/core/exports/contract';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField } from '../kit/field';
import { Link } from '../kit/link';
import { NotAll, useActable } from '../documents/NotAll';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { ExportState, isUnderWay, useExports } from './ExportState';

const folderWords: Readonly<Record<(typeof exportFolders)[number], string>> = {
  place: 'as in the library',
  year: 'by filing year',
  kind: 'by kind of file',
  none: 'none: all papers side by side',
};

interface Named {
  readonly id: string;
  readonly title: string;
}

/** Says what an archive will hold, and what it cannot; then it is made, and handed over. */
export function ExportDialog({
  title,
  papers,
  places,
  across,
  onClose,
}: {
  readonly title: string;
  /** The papers; left out where `places` are exported. */
  readonly papers?: readonly Named[];
  readonly places?: readonly string[];
  /** Papers chosen by ticks in a tree. */
  readonly across?: InputOf<'across.papers'>;
  readonly onClose: () => void;
}) {
  const { library } = useSurroundings();
  const [folders, setFolders] = useState<ExportFolders>('place');
  const [exportId, setExportId] = useState<string | null>(null);
  const ask = useAct('export.ask', { quiet: true });
  const sorted = useActable(papers ?? [], 'copy', papers !== undefined);
  const { data: columns } = useAsk('columns.at', { placeId: library.rootId });
  const nothing = papers !== undefined && sorted?.may.length === 0;
  const what: InputOf<'export.ask'>['what'] = papers
    ? { papers: (sorted?.may ?? []).map(({ id }) => id) }
    : across
      ? { across }
      : { places: [...(places ?? [])] };
  return (
    <Dialog
      title={title}
      about="One ZIP archive, with a list of the papers and their values as CSV, and sums by which they are checked. Papers of which you may take no copies are left out."
      open
      onClose={onClose}
    >
      {exportId === null ? (
        <>
          {sorted && papers && <NotAll sorted={sorted} total={papers.length} />}
          <ChoiceField
            label="Folders in the archive"
            value={folders}
            onChange={(event) => setFolders(event.target.value)}
          >
            {exportFolders.map((each) => (
              <option key={each} value={each}>
                {folderWords[each]}
              </option>
            ))}
            {columns?.columns
              .filter(({ retired }) => !retired)
              .map(({ id, name }) => (
                <option key={id} value={id}>
                  by {name}
                </option>
              ))}
          </ChoiceField>
          {ask.error && (
            <p role="alert" className="text-ember-ink">
              {saysOf(ask.error)}
            </p>
          )}
          <DialogActs>
            <Button
              look="main"
              disabled={nothing || ask.isPending || (papers !== undefined && !sorted)}
              onClick={() => ask.mutate({ what, folders }, { onSuccess: (made) => setExportId(made.exportId) })}
            >
              Export
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </DialogActs>
        </>
      ) : (
        <UnderWay exportId={exportId} onClose={onClose} />
      )}
    </Dialog>
  );
}

/** An export that was just asked for: how far it is, and it is handed over once it is there. */
function UnderWay({ exportId, onClose }: { readonly exportId: string; readonly onClose: () => void }) {
  const exports = useExports();
  const found = exports?.find(({ id }) => id === exportId);
  const handedOver = useRef(false);
  const isDone = found?.state === 'done';
  useEffect(() => {
    if (!isDone || handedOver.current) return;
    handedOver.current = true;
    window.location.assign(`/api/export/${exportId}`);
  }, [isDone, exportId]);
  return (
    <>
      {found && <ExportState found={found} />}
      {found && isUnderWay(found) && (
        <p className="mt-2 text-sm text-soft">
          This may be closed: it goes on, and waits under{' '}
          <Link href="/exports" className="underline">
            Exports
          </Link>
          .
        </p>
      )}
      <DialogActs>
        <Button look="main" onClick={onClose}>
          Close
        </Button>
      </DialogActs>
    </>
  );
}
