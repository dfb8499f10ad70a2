'use client';

import { useState } from 'react';
import { writeDay } from '@/core/calendar/typedDay';
import { wayWords } from '@/core/signoff/words';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { useAsk } from '../server/useCall';
import { AnswerDialog } from './AnswerDialog';

/** Over a paper on the screen: that the reader is asked to sign the version before them, or another one. */
export function SignBar({
  paper,
  shownVersion,
}: {
  readonly paper: { readonly id: string; readonly title: string };
  readonly shownVersion: number;
}) {
  const { data } = useAsk('signoff.of', { documentId: paper.id });
  const [answer, setAnswer] = useState<'agreed' | 'declined' | null>(null);
  const waiting = data?.signOffs.flatMap((signOff) => {
    const me = signOff.signers.find(({ isMe, isTurn }) => isMe && isTurn);
    return signOff.state === 'open' && me ? [{ signOff, me }] : [];
  });
  // The one of the version before them first.
  const first = waiting?.find(({ signOff }) => signOff.versionNumber === shownVersion) ?? waiting?.[0];
  if (!first) return null;
  const { signOff, me } = first;
  const isShown = signOff.versionNumber === shownVersion;
  const verb = wayWords[signOff.way];
  return (
    <section
      aria-label="You are asked to sign"
      className="no-print flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-straw-edge bg-straw px-4 text-straw-ink py-2"
    >
      <p className="min-w-0 flex-1 basis-64">
        <span className="font-semibold">
          You are asked to {verb} version {signOff.versionNumber}
          {signOff.dueOn !== null && ` by ${writeDay(signOff.dueOn)}`}.
        </span>{' '}
        <span className="break-words">{signOff.wording}</span> <span>Asked by {signOff.askedBy}.</span>
        {!isShown && <span className="block text-sm">This is version {shownVersion}, which is not the one.</span>}
      </p>
      {isShown ? (
        <>
          <Button onClick={() => setAnswer('agreed')}>{signOff.way === 'approve' ? 'Approve…' : 'Sign…'}</Button>
          <Button look="quiet" onClick={() => setAnswer('declined')}>
            Decline…
          </Button>
        </>
      ) : (
        <Link href={`/paper/${paper.id}?version=${signOff.versionNumber}`} className="text-brine-ink hover:underline">
          Read version {signOff.versionNumber}
        </Link>
      )}
      {answer !== null && (
        <AnswerDialog
          title={paper.title}
          documentId={paper.id}
          signOff={signOff}
          signerId={me.id}
          answer={answer}
          onClose={() => setAnswer(null)}
        />
      )}
    </section>
  );
}
