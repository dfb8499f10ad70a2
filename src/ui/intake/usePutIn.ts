'use client';

import { useState } from 'react';
import { counted } from '@/core/text/measure';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';
import { useRefresh } from '../server/useCall';
import { sendForIntake } from './sendForIntake';

/** A file that is on its way into the intake, or could not be put in. */
export interface Sending {
  readonly key: string;
  readonly file: File;
  /** From 0 to 1. */
  readonly sent: number;
  /** Why it could not be put in; null: it is on its way. */
  readonly refused: string | null;
}

/** Puts files into the intake, one after the other; what could not be put in stays listed until it is sent again or let go. */
export function usePutIn() {
  const [sending, setSending] = useState<readonly Sending[]>([]);
  const refresh = useRefresh();
  const change = (key: string, part: Partial<Sending>) =>
    setSending((all) => all.map((each) => (each.key === key ? { ...each, ...part } : each)));
  const letGo = (key: string) => setSending((all) => all.filter((each) => each.key !== key));

  async function send(each: Sending): Promise<boolean> {
    change(each.key, { refused: null, sent: 0 });
    try {
      const uploadId = await sendForIntake(each.file, (sent) => change(each.key, { sent }));
      await call('intake.putIn', { files: [{ uploadId, turn: 0 }], together: false });
      letGo(each.key);
      return true;
    } catch (error) {
      change(each.key, { refused: saysOf(error) });
      return false;
    } finally {
      refresh();
    }
  }

  async function put(files: readonly File[]): Promise<void> {
    const added = files.map((file) => ({ key: crypto.randomUUID(), file, sent: 0, refused: null }));
    setSending((all) => [...all, ...added]);
    let count = 0;
    for (const each of added) if (await send(each)) count += 1;
    if (count > 0)
      say.done(
        `${counted(count, 'file is', 'files are')} in the intake, and ${count === 1 ? 'waits' : 'wait'} once read.`,
      );
  }

  return { sending, put, again: send, letGo };
}
