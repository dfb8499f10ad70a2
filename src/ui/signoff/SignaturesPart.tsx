'use client';

import { useState } from 'react';
import { writeDay } from '@/core/calendar/typedDay';
import { momentInWords, whenInWords } from '@/core/calendar/moment';
import type { SignerRow, SignOffRow } from '@/core/signoff/contract';
import { signOffInWords } from '@/core/signoff/standing';
import { signerInWords } from '@/core/signoff/words';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { AnswerDialog } from './AnswerDialog';
import { AskDialog } from './AskDialog';
import { OnPaperDialog } from './OnPaperDialog';
import { ReasonDialog } from './ReasonDialog';
import { tellOfSeal } from './tellOfSeal';

interface Paper {
  readonly id: string;
  readonly title: string;
}

/** While a signed copy is being made it is asked again so often. */
const againMs = 2000;

/** The signatures of one paper in its docket: what was asked for, who has signed, and its seal. */
export function SignaturesPart({ paper }: { readonly paper: Paper }) {
  const { data } = useAsk(
    'signoff.of',
    { documentId: paper.id },
    { again: ({ signOffs }) => signOffs.some(({ sealState }) => sealState === 'waiting') && againMs },
  );
  const [dialog, setDialog] = useState<'ask' | 'paper' | null>(null);
  if (!data) return <p className="text-soft">…</p>;
  const { signOffs, signedOf, currentNumber } = data;
  return (
    <>
      {signedOf.map((each) => (
        <p key={each.signOffId} className="mb-1.5">
          <span className="font-medium">{sentence(each.words)}</span>:{' '}
          <Link
            href={`/paper/${each.documentId}?version=${each.versionNumber}`}
            className="text-brine-ink hover:underline"
          >
            {each.title}
          </Link>
        </p>
      ))}
      {data.isPdf && signedOf.length > 0 && (
        <Button look="quiet" className="-ml-3" onClick={() => tellOfSeal(paper.id)}>
          Check the seal
        </Button>
      )}
      {signOffs.length === 0 && signedOf.length === 0 && <p className="text-soft">Nobody was asked to sign it.</p>}
      {signOffs.length > 0 && (
        <ol className="space-y-3">
          {signOffs.map((each) => (
            <li key={each.id}>
              <SignOff paper={paper} signOff={each} currentNumber={currentNumber} />
            </li>
          ))}
        </ol>
      )}
      {(data.mayAsk || data.mayMark) && (
        <div className="mt-1.5 -ml-3 flex flex-wrap">
          {data.mayAsk && (
            <Button look="quiet" onClick={() => setDialog('ask')}>
              Ask for signatures…
            </Button>
          )}
          {data.mayMark && (
            <Button look="quiet" onClick={() => setDialog('paper')}>
              It is a signed scan…
            </Button>
          )}
        </div>
      )}
      {dialog === 'ask' && <AskDialog paper={paper} signOffs={data} onClose={() => setDialog(null)} />}
      {dialog === 'paper' && <OnPaperDialog scan={paper} onClose={() => setDialog(null)} />}
    </>
  );
}

const sentence = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);

function SignOff({
  paper,
  signOff,
  currentNumber,
}: {
  readonly paper: Paper;
  readonly signOff: SignOffRow;
  readonly currentNumber: number;
}) {
  const [dialog, setDialog] = useState<'agreed' | 'declined' | 'withdraw' | SignerRow | null>(null);
  const withdraw = useAct('signoff.withdraw', { quiet: true });
  const release = useAct('signoff.release', { quiet: true });
  const again = useAct('signoff.sealAgain');
  const isOpen = signOff.state === 'open';
  const me = signOff.signers.find(({ isMe, isTurn }) => isMe && isTurn);
  const close = () => setDialog(null);
  return (
    <>
      <p className="font-medium">
        {sentence(signOffInWords(signOff.way, signOff.state, signOff, signOff.versionNumber))}
      </p>
      {signOff.versionNumber !== currentNumber && signOff.way !== 'onPaper' && (
        <p className="text-sm text-ember-ink">
          Version {currentNumber} was filed since: it has none of these signatures.
        </p>
      )}
      {signOff.wording !== '' && <p className="break-words">{signOff.wording}</p>}
      <p className="text-sm text-soft">{askedInWords(signOff)}</p>
      <ul className="mt-1 space-y-0.5">
        {signOff.signers.map((each) => (
          <Signer key={each.id} signer={each} signOff={signOff} onRelease={() => setDialog(each)} />
        ))}
      </ul>
      {signOff.endReason !== '' && <p className="text-sm text-soft">Withdrawn: {signOff.endReason}</p>}
      {signOff.sealState === 'waiting' && (
        <p role="status" className="text-sm text-soft">
          The signed copy is being made…
        </p>
      )}
      {signOff.sealState === 'failed' && (
        <p className="text-sm text-ember-ink">
          The signed copy could not be made.
          {signOff.mayManage && (
            <Button look="quiet" className="!px-1" onClick={() => again.mutate({ signOffId: signOff.id })}>
              Make it again
            </Button>
          )}
        </p>
      )}
      {signOff.signedPaper && signOff.signedPaper.id !== paper.id && (
        <p className="text-sm">
          {signOff.way === 'onPaper' ? 'Scan: ' : 'Signed copy: '}
          <Link href={`/paper/${signOff.signedPaper.id}`} className="text-brine-ink hover:underline">
            {signOff.signedPaper.title}
          </Link>
        </p>
      )}
      <div className="mt-1.5 flex flex-wrap gap-2">
        {me && (
          <>
            <Button onClick={() => setDialog('agreed')}>{signOff.way === 'approve' ? 'Approve…' : 'Sign…'}</Button>
            <Button look="quiet" onClick={() => setDialog('declined')}>
              Decline…
            </Button>
          </>
        )}
        {signOff.mayManage && (isOpen || (signOff.way === 'onPaper' && signOff.state === 'signed')) && (
          <Button look="quiet" className={me ? '' : '-ml-3'} onClick={() => setDialog('withdraw')}>
            Withdraw…
          </Button>
        )}
      </div>
      {me && (dialog === 'agreed' || dialog === 'declined') && (
        <AnswerDialog
          title={paper.title}
          documentId={paper.id}
          signOff={signOff}
          signerId={me.id}
          answer={dialog}
          onClose={close}
        />
      )}
      {dialog === 'withdraw' && (
        <ReasonDialog
          title="Withdraw the signatures"
          about="Nobody is asked any more, and links that were sent outside open nothing. What was answered stays in the journal."
          does="Withdraw"
          error={withdraw.error}
          isBusy={withdraw.isPending}
          onDo={(reason) => withdraw.mutate({ signOffId: signOff.id, reason }, { onSuccess: close })}
          onClose={close}
        />
      )}
      {dialog !== null && typeof dialog === 'object' && (
        <ReasonDialog
          title={`Let ${dialog.name} off`}
          about="They need not answer any more; the others are enough. The page of signatures says so."
          does="Let them off"
          error={release.error}
          isBusy={release.isPending}
          onDo={(reason) => release.mutate({ signerId: dialog.id, reason }, { onSuccess: close })}
          onClose={close}
        />
      )}
    </>
  );
}

/** "Asked by Maren Tolliver, one after the other, by 14 Jul 2026" */
function askedInWords({ way, askedBy, inTurn, dueOn, signers, needed, of }: SignOffRow): string {
  if (way === 'onPaper') return `Said by ${askedBy}.`;
  const parts = [
    `Asked by ${askedBy}`,
    ...(signers.length > 1 ? [inTurn ? 'one after the other' : 'side by side'] : []),
    ...(needed < of ? [`${needed} of them are enough`] : []),
    ...(dueOn === null ? [] : [`by ${writeDay(dueOn)}`]),
  ];
  return `${parts.join(', ')}.`;
}

function Signer({
  signer,
  signOff,
  onRelease,
}: {
  readonly signer: SignerRow;
  readonly signOff: SignOffRow;
  readonly onRelease: () => void;
}) {
  const { timeZone, now } = useSurroundings();
  const callAgain = useAct('signoff.callAgain');
  const isOpen = signOff.state === 'open';
  const when =
    signer.answeredAt === null
      ? ''
      : signOff.way === 'onPaper'
        ? writeDay(signer.answeredAt.slice(0, 10))
        : whenInWords(signer.answeredAt, now, timeZone);
  return (
    <li className="text-sm">
      <span className="flex flex-wrap items-baseline gap-x-2">
        <span className="font-medium">{signer.name}</span>
        {signer.outside && <span className="text-soft">outside</span>}
        <span className={signer.answer === 'declined' || signer.cannotAnswer ? 'text-ember-ink' : 'text-soft'}>
          {signerInWords(signer, signOff.way, isOpen)}
          {when !== '' && (
            <>
              {', '}
              <time dateTime={signer.answeredAt ?? ''} title={momentInWords(signer.answeredAt ?? '', timeZone)}>
                {when}
              </time>
            </>
          )}
        </span>
      </span>
      {signer.reason !== '' && <span className="block text-soft">{signer.reason}</span>}
      {isOpen && signOff.mayManage && signer.answer === null && (
        <span className="-ml-3 block">
          {signer.isTurn && !signer.cannotAnswer && (
            <Button
              look="quiet"
              aria-label={`Ask ${signer.name} again`}
              disabled={callAgain.isPending}
              onClick={() =>
                callAgain.mutate(
                  { signerId: signer.id },
                  {
                    onSuccess: ({ notReached }) =>
                      notReached.length === 0
                        ? say.done(`${signer.name} is asked again`)
                        : say.refusal(`No message could be sent to ${signer.name}. Tell a keeper.`),
                  },
                )
              }
            >
              Ask again
            </Button>
          )}
          <Button look="quiet" aria-label={`Let ${signer.name} off…`} onClick={onRelease}>
            Let off…
          </Button>
        </span>
      )}
    </li>
  );
}
