'use client';

import { useState } from 'react';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** Files a web link in a place. */
export function NewLinkDialog({
  place,
  onClose,
}: {
  readonly place: { readonly id: string; readonly name: string };
  readonly onClose: () => void;
}) {
  const add = useAct('paper.addLink', { quiet: true });
  const [fields, setFields] = useState({ address: '', title: '', remark: '' });
  const isReady = fields.address.trim() !== '' && fields.title.trim() !== '' && !add.isPending;
  const field = (name: keyof typeof fields, label: string, most: number) => (
    <TextField
      label={label}
      value={fields[name]}
      maxLength={most}
      onChange={(event) => setFields({ ...fields, [name]: event.target.value })}
    />
  );
  return (
    <Dialog
      title={`File a web link in ${place.name}`}
      about="Its address is kept as a paper, with columns and labels like any other. Nothing is fetched from it."
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!isReady) return;
          add.mutate(
            { placeId: place.id, ...fields, title: fields.title.trim() },
            {
              onSuccess: () => {
                say.done(`“${fields.title.trim()}” is filed in ${place.name}`);
                onClose();
              },
            },
          );
        }}
      >
        {field('address', 'Web address', 2000)}
        {field('title', 'Title', 200)}
        {field('remark', 'Remark, if you like', 4000)}
        {add.error && (
          <p role="alert" className="mb-2 text-ember-ink">
            {saysOf(add.error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            File it
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
