'use client';

import { useState } from 'react';
import { sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { queued, type OfferedFile } from './offeredFiles';
import { useUploads, type VersionedPaper } from './uploadsContext';

/** Asks what a file that was dropped on a paper is to be: its next version, or a paper of its own beside it. */
export function VersionDialog({
  file,
  of,
  onClose,
}: {
  readonly file: OfferedFile;
  readonly of: VersionedPaper;
  readonly onClose: () => void;
}) {
  const { queue, offer } = useUploads();
  const [remark, setRemark] = useState('');
  const fileIt = () => {
    const item = { ...queued(file, of.place), title: of.title, remark: remark.trim(), versionOf: of.id };
    queue.add([{ file: file.file, item }]);
    onClose();
  };
  const fileBeside = () => {
    onClose();
    offer([file.file], of.place);
  };
  return (
    <Dialog
      title={`New version of ${of.title}`}
      about="The versions there are stay, and can be opened, compared and restored."
      open
      onClose={onClose}
    >
      <p className="figures break-words">
        {file.file.name} · {sizeInWords(file.file.size)}
      </p>
      {file.refused && <p className="mt-2 text-ember-ink">{file.refused.says}</p>}
      <div className="mt-3">
        <LongField
          label="Remark on this version"
          help="Optional; it stands beside the version."
          value={remark}
          maxLength={4000}
          rows={2}
          onChange={(event) => setRemark(event.target.value)}
        />
      </div>
      <DialogActs>
        <Button look="main" disabled={file.refused !== null} onClick={fileIt}>
          File as the new version
        </Button>
        <Button onClick={fileBeside}>File as a paper of its own…</Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
