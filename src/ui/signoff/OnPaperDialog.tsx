'use client';

import { useState } from 'react';
import { XIcon } from '@phosphor-icons/react';
import { ReferencePick } from '../columns/ReferencePick';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

interface Line {
  readonly name: string;
  readonly on: string;
}

/** Says that a paper is the scan of what people signed on paper. */
export function OnPaperDialog({
  scan,
  onClose,
}: {
  readonly scan: { readonly id: string; readonly title: string };
  readonly onClose: () => void;
}) {
  const { now } = useSurroundings();
  const today = now.slice(0, 10);
  const [of, setOf] = useState<{ readonly id: string; readonly name: string } | null>(null);
  const [version, setVersion] = useState<number | null>(null);
  const [lines, setLines] = useState<readonly Line[]>([{ name: '', on: today }]);
  const { data: original } = useAsk('paper.docket', { documentId: of?.id ?? '' }, { enabled: of !== null });
  const mark = useAct('signoff.markOnPaper', { quiet: true });
  const withdraw = useAct('signoff.withdraw');
  const versions = original?.versions ?? [];
  const chosen = version ?? versions[0]?.number ?? null;
  const filled = lines.filter(({ name }) => name.trim() !== '');
  const isReady =
    !mark.isPending && of !== null && chosen !== null && filled.length > 0 && filled.every(({ on }) => on !== '');
  const put = (at: number, more: Partial<Line>) =>
    setLines(lines.map((line, other) => (other === at ? { ...line, ...more } : line)));
  return (
    <Dialog
      title={`“${scan.title}” is a signed scan`}
      about="Say which paper was printed and signed, by whom, and when."
      open
      onClose={onClose}
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!isReady) return;
          mark.mutate(
            {
              scanId: scan.id,
              documentId: of.id,
              versionNumber: chosen,
              signers: filled.map(({ name, on }) => ({ name: name.trim(), on })),
            },
            {
              onSuccess: ({ signOffId }) => {
                say.undoable(`“${of.name}” is marked as signed on paper`, () =>
                  withdraw.mutate({ signOffId, reason: 'Undone at once' }),
                );
                onClose();
              },
            },
          );
        }}
      >
        <ReferencePick
          kind="document"
          label="What was signed"
          value={of}
          instead="Choose the paper"
          onPick={(picked) => {
            setOf(picked);
            setVersion(null);
          }}
        />
        {versions.length > 1 && (
          <ChoiceField
            label="Version"
            value={chosen ?? ''}
            onChange={(event) => setVersion(Number(event.target.value))}
          >
            {versions.map(({ number }) => (
              <option key={number} value={number}>
                Version {number}
              </option>
            ))}
          </ChoiceField>
        )}
        <fieldset>
          <legend className="mb-1 text-sm font-semibold">Who signed, and when</legend>
          {lines.map((line, at) => (
            <div key={at} className="grid grid-cols-[minmax(0,1fr)_150px_auto] items-start gap-2 [&>div]:mb-2">
              <TextField
                label={`Name ${at + 1}`}
                value={line.name}
                maxLength={120}
                onChange={(event) => put(at, { name: event.target.value })}
              />
              <TextField
                label={`Signed on ${at + 1}`}
                type="date"
                max={today}
                value={line.on}
                onChange={(event) => put(at, { on: event.target.value })}
              />
              <Button
                look="quiet"
                className="mt-[25px] !px-1"
                aria-label={`Take line ${at + 1} out`}
                disabled={lines.length === 1}
                onClick={() => setLines(lines.filter((_line, other) => other !== at))}
              >
                <XIcon size={13} weight="bold" aria-hidden />
              </Button>
            </div>
          ))}
          <Button
            look="quiet"
            className="-ml-3"
            onClick={() => setLines([...lines, { name: '', on: lines.at(-1)?.on ?? today }])}
          >
            One more
          </Button>
        </fieldset>
        {mark.error && (
          <p role="alert" className="mt-2 text-ember-ink">
            {saysOf(mark.error)}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={!isReady}>
            Mark as signed
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
