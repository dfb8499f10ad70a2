'use client';

import Collaboration from '@tiptap/extension-collaboration';
import { EditorContent, useEditor } from '@tiptap/react';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import * as Y from 'yjs';
import type { NoteState } from '@/core/notes/contract';
import { noteExtensions, noteField } from '@/core/notes/extensions';
import { Button } from '../kit/button';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';
import { NoteTools } from './NoteTools';
import { applyChanges, useNoteSync, type NoteStanding } from './useNoteSync';

/** Writing a note: what is typed is kept while one types, and as a version when one leaves. */
export function NoteRoom({ documentId, title }: { readonly documentId: string; readonly title: string }) {
  const [begun, setBegun] = useState<NoteState | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  // Raised to open it again after its text was begun anew.
  const [times, setTimes] = useState(0);
  useEffect(() => {
    let left = false;
    call('note.begin', { documentId }).then(
      (state) => left || setBegun(state),
      (error: unknown) => left || setRefused(saysOf(error)),
    );
    return () => {
      left = true;
    };
  }, [documentId, times]);
  if (refused !== null) return <p className="p-6">{refused}</p>;
  if (!begun)
    return (
      <p className="p-6 text-soft" aria-busy>
        The note is being opened…
      </p>
    );
  const again = () => {
    setBegun(null);
    setTimes(times + 1);
  };
  return <Writing key={`${documentId} ${times}`} {...{ documentId, title, begun }} onAgain={again} />;
}

const standingWords: Readonly<Record<'kept' | 'sending', string>> = {
  kept: 'All is kept',
  sending: 'Being kept…',
};

function Writing({
  documentId,
  title,
  begun,
  onAgain,
}: {
  readonly documentId: string;
  readonly title: string;
  readonly begun: NoteState;
  readonly onAgain: () => void;
}) {
  const router = useRouter();
  const [text] = useState(() => {
    const doc = new Y.Doc();
    applyChanges(doc, begun.changes);
    return doc;
  });
  const { standing, others, flush } = useNoteSync(documentId, text, begun);
  const isOver = standing.state === 'anew';
  const editor = useEditor({
    extensions: [...noteExtensions, Collaboration.configure({ document: text, field: noteField })],
    immediatelyRender: false,
    autofocus: 'end',
    editorProps: {
      attributes: {
        class: 'note-text min-h-[60vh] outline-none',
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': `The text of ${title}`,
      },
    },
  });
  useEffect(() => {
    editor?.setEditable(!isOver);
  }, [editor, isOver]);
  const [leaving, setLeaving] = useState(false);

  const leave = async () => {
    setLeaving(true);
    try {
      await flush();
      const { versionNumber } = await call('note.keep', { documentId });
      if (versionNumber !== null) say.done(`Kept as version ${versionNumber} of “${title}”`);
      router.push(`/paper/${documentId}`);
    } catch (error) {
      setLeaving(false);
      say.refusal(saysOf(error));
    }
  };

  return (
    <main id="main" className="flex min-h-0 min-w-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-sheet px-4 py-1.5">
        <h1 className="min-w-0 flex-1 truncate font-condensed text-lg">{title}</h1>
        <p role="status" className="text-sm text-soft">
          {others.length > 0 && <span className="mr-3 text-brine-ink">Also writing: {others.join(', ')}</span>}
          <Standing standing={standing} />
        </p>
        <Button look="main" disabled={leaving || isOver} onClick={() => void leave()}>
          Done
        </Button>
      </div>
      {isOver && (
        <div role="alert" className="flex flex-wrap items-center gap-2 border-b border-ember bg-ember-wash px-4 py-2">
          <span className="flex-1">
            This note has got another version meanwhile. What you see here can be copied, and no longer changed.
          </span>
          <Button onClick={onAgain}>Open the new version</Button>
        </div>
      )}
      {editor && <NoteTools editor={editor} disabled={isOver} />}
      <div
        className="min-h-0 flex-1 overflow-y-auto bg-mist px-3 py-5"
        onClick={(event) => event.target === event.currentTarget && editor?.commands.focus('end')}
      >
        <div className="mx-auto max-w-[46em] border border-line bg-sheet px-8 py-7 shadow-sm max-sm:px-4 max-sm:py-4">
          <EditorContent editor={editor} />
        </div>
      </div>
    </main>
  );
}

function Standing({ standing }: { readonly standing: NoteStanding }) {
  if (standing.state === 'held') return <span className="text-ember-ink">Not kept yet: {standing.says}</span>;
  return standing.state === 'anew' ? null : standingWords[standing.state];
}
