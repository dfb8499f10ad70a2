'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { readyStarts, startNotes } from '@/core/notes/starts';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** Begins a note in a place, from a ready-made start or one of the library's. */
export function NewNoteDialog({
  place,
  onClose,
}: {
  readonly place: { readonly id: string; readonly name: string };
  readonly onClose: () => void;
}) {
  const router = useRouter();
  const create = useAct('note.create', { quiet: true });
  const starts = useAsk('notes.starts', {});
  const [title, setTitle] = useState('');
  const [start, setStart] = useState<string>('empty');
  const ready = readyStarts.find((each) => each === start);
  const begin = () =>
    create.mutate(
      { placeId: place.id, title: title.trim(), start: ready ? { ready } : { documentId: start } },
      { onSuccess: ({ documentId }) => router.push(`/paper/${documentId}/write`) },
    );
  return (
    <Dialog
      title={`Write a note in ${place.name}`}
      about="A note is a paper that is written here, in the browser. It is kept while you type; several people can write at once."
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (title.trim() !== '' && !create.isPending) begin();
        }}
      >
        <TextField
          label="Title"
          value={title}
          maxLength={200}
          wrong={create.error ? saysOf(create.error) : undefined}
          onChange={(event) => setTitle(event.target.value)}
        />
        <fieldset>
          <legend className="mb-1 text-sm font-semibold">What it begins with</legend>
          {[
            ...readyStarts.map((each) => ({ key: each as string, name: startNotes[each].name })),
            ...(starts.data ?? []).map((each) => ({ key: each.documentId, name: each.title })),
          ].map(({ key, name }) => (
            <label key={key} className="flex items-center gap-2 py-0.5">
              <input
                type="radio"
                name="start"
                checked={start === key}
                onChange={() => setStart(key)}
                className="accent-brine"
              />
              {name}
            </label>
          ))}
        </fieldset>
        <DialogActs>
          <Button look="main" type="submit" disabled={title.trim() === '' || create.isPending}>
            Write it
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
