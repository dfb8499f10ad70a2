'use client';

import { useEffect, useRef, useState } from 'react';
import * as Y from 'yjs';
import type { NoteState } from '@/core/notes/contract';
import { Refusal } from '@/core/errors/refusal';
import { call, saysOf } from '../server/call';

/** What has been typed is sent after so long without another key. */
const restMs = 400;
/** So often it is asked what others have written. */
const everyMs = 1500;

/** How a note stands with the library: all kept there, on its way, or not, and why. */
export type NoteStanding =
  | { readonly state: 'kept' | 'sending' }
  | { readonly state: 'held'; readonly says: string }
  /** The note was begun anew from another version meanwhile. */
  | { readonly state: 'anew' };

const fromBase64 = (text: string): Uint8Array => Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
const toBase64 = (bytes: Uint8Array): string => {
  let text = '';
  for (let at = 0; at < bytes.length; at += 0x8000) text += String.fromCharCode(...bytes.subarray(at, at + 0x8000));
  return btoa(text);
};

/** Changes of the library's, by which those of this window are told from them. */
const fromLibrary = 'library';

/** Applies changes; one that is none is left out. */
export function applyChanges(text: Y.Doc, changes: NoteState['changes']): void {
  for (const { change } of changes) {
    try {
      Y.applyUpdate(text, fromBase64(change), fromLibrary);
    } catch {
      // What one person's browser sent broken must not stop the others from writing.
    }
  }
}

/**
 * Keeps a note's text as the library has it: sends what is typed here, and takes what others write. What could not be sent
 * stays, and is sent when it can be.
 * @returns how it stands, who else writes, and `flush`, which resolves once all is sent
 */
export function useNoteSync(documentId: string, text: Y.Doc, begun: NoteState) {
  const [standing, setStanding] = useState<NoteStanding>({ state: 'kept' });
  const [others, setOthers] = useState(begun.others);
  const flush = useRef<() => Promise<void>>(() => Promise.resolve());

  useEffect(() => {
    let pending: Uint8Array[] = [];
    let after = begun.number;
    let running: Promise<void> | null = null;
    let timer: ReturnType<typeof setTimeout> | null = null;
    let over = false;

    const exchange = async (): Promise<void> => {
      const sent = pending;
      pending = [];
      try {
        const changes = sent.length === 0 ? [] : [toBase64(Y.mergeUpdates(sent))];
        const state = await call('note.write', { documentId, round: begun.round, after, changes });
        if (state.round !== begun.round) {
          over = true;
          return setStanding({ state: 'anew' });
        }
        applyChanges(text, state.changes);
        after = state.number;
        setOthers((before) => (before.join() === state.others.join() ? before : state.others));
        setStanding(pending.length === 0 ? { state: 'kept' } : { state: 'sending' });
      } catch (error) {
        pending = [...sent, ...pending];
        const lasting = error instanceof Refusal && ['not-allowed', 'not-found', 'locked'].includes(error.issue.kind);
        if (lasting) over = true;
        setStanding({ state: 'held', says: saysOf(error) });
      }
    };
    const go = (): Promise<void> => {
      running ??= exchange().finally(() => {
        running = null;
        plan(pending.length > 0 ? restMs : everyMs);
      });
      return running;
    };
    const plan = (ms: number) => {
      if (timer) clearTimeout(timer);
      if (!over) timer = setTimeout(() => void go(), ms);
    };
    const onUpdate = (update: Uint8Array, origin: unknown) => {
      if (origin === fromLibrary) return;
      pending.push(update);
      setStanding((before) => (before.state === 'kept' ? { state: 'sending' } : before));
      if (!running) plan(restMs);
    };
    const onHide = () => void (pending.length > 0 && go());
    text.on('update', onUpdate);
    window.addEventListener('pagehide', onHide);
    document.addEventListener('visibilitychange', onHide);
    flush.current = async () => {
      if (running) await running;
      if (pending.length > 0) await go();
      if (pending.length > 0) throw new Error('Not all of it could be sent');
    };
    plan(everyMs);
    const warn = (event: BeforeUnloadEvent) => {
      if (pending.length > 0 || running) event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => {
      over = true;
      if (timer) clearTimeout(timer);
      text.off('update', onUpdate);
      window.removeEventListener('pagehide', onHide);
      document.removeEventListener('visibilitychange', onHide);
      window.removeEventListener('beforeunload', warn);
    };
  }, [documentId, text, begun]);

  return { standing, others, flush: () => flush.current() };
}
