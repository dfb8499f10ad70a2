'use client';

import { useState, type FormEvent } from 'react';
import type { PackNote } from '@/core/packs/contract';
import { Button } from '../kit/button';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import type { useUnsentNotes } from './useUnsentNotes';

/** The page in sight, and its number; null: it is no page of a paper. */
export interface Here {
  readonly page: number;
  readonly number: string | null;
}

/** A note that is being written. It is of the page at which it was begun, wherever the pages are by then. */
export interface Draft {
  readonly text: string;
  readonly at: Here | null;
}
/** Nothing is being written. */
export const noDraft: Draft = { text: '', at: null };

/** The reader's own notes on a pack: a new one on the page in sight, and all as a list. Nobody else is told of them. */
export function NotesPanel({
  issueId,
  here,
  draft: { text, at },
  unsent: { waiting, wait, remove, isAway },
  onDraft,
  onPage,
}: {
  readonly issueId: string;
  readonly here: Here;
  readonly draft: Draft;
  readonly unsent: ReturnType<typeof useUnsentNotes>;
  readonly onDraft: (draft: Draft) => void;
  readonly onPage: (page: number) => void;
}) {
  const { data } = useAsk('pack.notes', { issueId });
  const write = useAct('pack.writeNote', { quiet: true });
  const { page, number } = at ?? here;
  const type = (words: string) => onDraft(words === '' ? noDraft : { text: words, at: at ?? here });
  const isMarked = data?.some((note) => note.page === page && note.text === '') === true;
  const keep = (words: string) => {
    const noteId = crypto.randomUUID();
    write.mutate(
      { issueId, noteId, page, text: words },
      {
        onSuccess: () => words !== '' && type(''),
        onError: (error) => {
          if (!isAway(error)) return say.refusal(saysOf(error));
          wait(noteId, page, words);
          if (words !== '') type('');
        },
      },
    );
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (text.trim() !== '' && !write.isPending) keep(text);
  };
  return (
    <div className="flex h-full flex-col">
      <form onSubmit={submit} className="border-b border-line px-4 py-2">
        <h2 className="font-condensed text-[11.5px] tracking-wide text-soft uppercase">My notes</h2>
        <p className="mb-1 text-sm text-soft">Only you can read them. They are kept with the paper’s page.</p>
        <textarea
          aria-label={number === null ? 'A note' : `A note on page ${number}`}
          placeholder={number === null ? 'This page takes no notes' : `A note on page ${number}`}
          rows={3}
          value={text}
          maxLength={4000}
          disabled={number === null}
          onChange={({ target }) => type(target.value)}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) submit(event);
          }}
          className="w-full rounded-sm border border-edge bg-sheet px-2.5 py-1.5 placeholder:text-soft disabled:opacity-60"
        />
        {at !== null && at.page !== here.page && <p className="text-sm text-soft">This note is of page {at.number}.</p>}
        <span className="flex gap-2">
          <Button type="submit" disabled={number === null || text.trim() === '' || write.isPending}>
            Keep the note
          </Button>
          {!isMarked && (
            <Button look="quiet" disabled={number === null || write.isPending} onClick={() => keep('')}>
              Mark the page
            </Button>
          )}
        </span>
      </form>
      <ul aria-label="My notes" className="min-h-0 flex-1 overflow-y-auto">
        {data?.map((note) => (
          <Note key={note.id} note={note} issueId={issueId} isHere={note.page === here.page} onPage={onPage} />
        ))}
        {waiting.map(({ id, text: words, refused }, index) => (
          <li key={id} className="border-b border-line px-4 py-2">
            <p className={`text-sm ${refused === null ? 'text-soft' : 'text-ember-ink'}`}>
              {refused ?? 'Waits for the connection; it is kept in this browser.'}
            </p>
            <p className={words === '' ? 'text-soft italic' : 'whitespace-pre-line'}>
              {words === '' ? 'Marked' : words}
            </p>
            {refused !== null && (
              <Button look="quiet" className="h-6 !px-1 text-sm" onClick={() => remove(index)}>
                Remove
              </Button>
            )}
          </li>
        ))}
        {data?.length === 0 && waiting.length === 0 && <li className="px-4 py-3 text-soft">None yet in this pack.</li>}
      </ul>
    </div>
  );
}

function Note({
  note: { id: noteId, page, number, paper, text, revision },
  issueId,
  isHere,
  onPage,
}: {
  readonly note: PackNote;
  readonly issueId: string;
  readonly isHere: boolean;
  readonly onPage: (page: number) => void;
}) {
  const change = useAct('pack.changeNote');
  const remove = useAct('pack.removeNote');
  const write = useAct('pack.writeNote');
  const [changed, setChanged] = useState<string | null>(null);
  const takeOut = () =>
    remove.mutate(
      { noteId },
      {
        onSuccess: () =>
          say.undoable(text === '' ? 'The mark is removed' : 'The note is removed', () =>
            write.mutate({ issueId, noteId: crypto.randomUUID(), page, text }),
          ),
      },
    );
  return (
    <li className={`border-b border-line px-4 py-2 ${isHere ? 'bg-straw' : ''}`}>
      <button
        type="button"
        onClick={() => onPage(page)}
        className="block min-h-[24px] w-full text-left text-sm text-brine-ink hover:underline"
      >
        Page {number}, {paper}
      </button>
      {changed === null ? (
        <p className={text === '' ? 'text-soft italic' : 'whitespace-pre-line'}>{text === '' ? 'Marked' : text}</p>
      ) : (
        <textarea
          aria-label={`The note on page ${number}`}
          autoFocus
          rows={3}
          value={changed}
          maxLength={4000}
          onChange={({ target }) => setChanged(target.value)}
          className="w-full rounded-sm border border-edge bg-sheet px-2.5 py-1.5"
        />
      )}
      <span className="flex gap-1">
        {changed === null ? (
          <Button look="quiet" className="h-6 !px-1 text-sm" onClick={() => setChanged(text)}>
            {text === '' ? 'Write' : 'Change'}
          </Button>
        ) : (
          <Button
            look="quiet"
            className="h-6 !px-1 text-sm"
            disabled={change.isPending}
            onClick={() => change.mutate({ noteId, text: changed, revision }, { onSuccess: () => setChanged(null) })}
          >
            Save
          </Button>
        )}
        <Button
          look="quiet"
          className="h-6 !px-1 text-sm"
          aria-label={`Remove the ${text === '' ? 'mark' : 'note'} on page ${number}`}
          onClick={() => (changed === null ? takeOut() : setChanged(null))}
        >
          {changed === null ? 'Remove' : 'Cancel'}
        </Button>
      </span>
    </li>
  );
}
