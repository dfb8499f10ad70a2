'use client';

import { useEffect, useRef, useState } from 'react';
import { Refusal } from '@/core/errors/refusal';
import type { ArrivalSheet } from '@/core/intake/contract';
import { evidenceInWords } from '@/core/intake/evidence';
import { counted } from '@/core/text/measure';
import { percentSure } from '@/core/stated/sureness';
import { Button } from '../kit/button';
import { say } from '../kit/notice';
import type { PickItem } from '../kit/pick';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { Alongside } from './Alongside';
import { FieldLines } from './FieldLines';
import { NewDossierHere } from './NewDossierHere';
import { NotNow } from './NotNow';
import { PartLine } from './PartLine';
import type { Fields } from './useFields';
import type { Target } from './useTarget';
import { WhereDialog } from './WhereDialog';

/** What is filed of an arrival, where and with which values: all as it is proposed, or otherwise. */
export function CheckForm({
  sheet,
  shown,
  target,
  fields,
  onShow,
  onDone,
}: {
  readonly sheet: ArrivalSheet;
  readonly shown: number | null;
  readonly target: Target;
  readonly fields: Fields;
  readonly onShow: (attachment: number | null) => void;
  readonly onDone: () => void;
}) {
  const { id: arrivalId, revision, parts, places, standsOut } = sheet;
  const file = useAct('arrival.file', { quiet: true });
  const aside = useAct('arrival.setAside');
  const back = useAct('arrival.takeBack');
  const [picked, setPicked] = useState<ReadonlyMap<number | null, string>>(
    () => new Map(parts.filter(({ counts }) => counts).map(({ attachment, title }) => [attachment, title])),
  );
  const [newer, setNewer] = useState<ReadonlyMap<number | null, string>>(
    () => new Map(parts.flatMap(({ attachment, newerOf: [first] }) => (first?.isSure ? [[attachment, first.id]] : []))),
  );
  const [labelIds, setLabelIds] = useState<readonly string[]>(() => sheet.labels.map(({ id }) => id));
  const [told, setTold] = useState<readonly PickItem[]>(sheet.tell);
  const { chosen, other, setOther, at, setAt } = target;
  const { me } = useSurroundings();
  const [choosing, setChoosing] = useState(false);
  const [making, setMaking] = useState(false);
  // Whoever is quicker than the values waits for them.
  const isAwaited = useRef(false);
  const mainAct = useRef<HTMLButtonElement>(null);
  // One key agrees; on a telephone one begins to read at the top all the same.
  useEffect(() => {
    if (standsOut) mainAct.current?.focus({ preventScroll: true });
  }, [standsOut]);
  const isReady = chosen !== null && picked.size > 0 && ![...picked.values()].some((title) => title.trim() === '');
  const set = (attachment: number | null, title: string | null) => {
    const next = new Map(picked);
    if (title === null) next.delete(attachment);
    else next.set(attachment, title);
    setPicked(next);
  };
  const refused = refusedColumns(file.error);
  const undo = () => back.mutate({ arrivalId });
  const submit = () => {
    if (!isReady || file.isPending) return;
    isAwaited.current = !fields.isHere;
    if (isAwaited.current) return;
    file.mutate(
      {
        arrivalId,
        revision,
        placeId: chosen.id,
        parts: [...picked].map(([attachment, title]) => {
          const versionOf = newer.get(attachment);
          return versionOf === undefined
            ? { attachment, title, values: fields.valuesOf(attachment) }
            : { attachment, title, versionOf };
        }),
        labelIds: [...labelIds],
        tell: told.map(({ id }) => id),
      },
      {
        onSuccess: ({ documentIds, notTold }) => {
          if (notTold.length > 0)
            say.refusal(
              `${notTold.join(', ')} may not read it, and ${notTold.length === 1 ? 'was' : 'were'} not told.`,
            );
          say.undoable(`${counted(documentIds.length, 'paper')} filed in ${chosen.path.at(-1) ?? ''}`, undo);
          onDone();
        },
      },
    );
  };
  useEffect(() => {
    if (isAwaited.current && fields.isHere) submit();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once they are there, and with what is chosen then.
  }, [fields.isHere]);
  return (
    <form
      onSubmit={(event) => {
        // What is sent from a dialog above it comes by here too.
        if (event.target !== event.currentTarget) return;
        event.preventDefault();
        submit();
      }}
      // A key that is held down files one, and not what comes after it.
      onKeyDown={(event) => event.repeat && event.key === 'Enter' && event.preventDefault()}
      className="px-4 py-3"
    >
      <fieldset className="min-w-0">
        <legend className="font-condensed text-[11.5px] tracking-wide text-soft uppercase">To be filed</legend>
        {parts.map((part) => (
          <PartLine
            key={part.attachment ?? 'mail'}
            part={part}
            title={picked.get(part.attachment) ?? null}
            isShown={part.attachment === shown}
            onShow={() => onShow(part.attachment)}
            onTitle={(title) => set(part.attachment, title)}
            versionOf={newer.get(part.attachment) ?? null}
            onVersionOf={(id) => {
              const next = new Map(newer);
              if (id === null) next.delete(part.attachment);
              else next.set(part.attachment, id);
              setNewer(next);
            }}
          >
            <FieldLines
              attachment={part.attachment}
              part={part.attachment === null && part.stamp === 'MAIL' ? 'the mail itself' : part.name}
              fields={fields}
              refused={refused}
            />
          </PartLine>
        ))}
      </fieldset>
      {fields.take !== null && (
        <p role="status" className="mt-1 text-sm text-brine-ink">
          Press a word in the page to take it for {fields.current?.name}.
        </p>
      )}
      <h3 className="mt-3 font-condensed text-[11.5px] tracking-wide text-soft uppercase">Where</h3>
      {other === null &&
        places.map(({ placeId, path, evidence, expected }, index) => (
          <label key={placeId} className="flex min-h-[28px] items-start gap-2 py-1">
            <input
              type="radio"
              name="place"
              checked={index === at}
              onChange={() => setAt(index)}
              className="mt-1 size-[15px] shrink-0 accent-brine"
            />
            <span className="min-w-0">
              <span className="block">{path.join(' / ')}</span>
              {expected !== null && <span className="block text-sm text-brine-ink">{expected}</span>}
              {evidence.map((each) => (
                <span key={`${each.kind} ${each.about}`} className="block text-sm text-soft">
                  {evidenceInWords(each)}
                </span>
              ))}
            </span>
          </label>
        ))}
      {other === null && sheet.sure !== null && places.length > 0 && (
        <p className="text-sm text-soft">{percentSure(sheet.sure)} % sure of the first.</p>
      )}
      {other === null && places.length === 0 && (
        <p className="text-soft">Nothing in it says where it belongs. Choose a place.</p>
      )}
      {other === null && places.length > 1 && !standsOut && (
        <p className="text-sm text-ember-ink">It may be either: look before you file it.</p>
      )}
      {other !== null && <p className="py-1">{other.path.join(' / ')}</p>}
      <div className="flex flex-wrap gap-x-4">
        <Button look="quiet" className="!px-0" onClick={() => setChoosing(true)}>
          Another place…
        </Button>
        {me.keeper && (
          <Button look="quiet" className="!px-0" onClick={() => setMaking(true)}>
            New dossier…
          </Button>
        )}
      </div>
      <div className="mt-3">
        <Alongside
          {...{ labelIds, told }}
          onLabels={setLabelIds}
          onTold={setTold}
          proposed={[...sheet.labels, ...sheet.tell]}
        />
      </div>
      {(file.error ?? fields.error) && (
        <p role="alert" className="my-2 text-ember-ink">
          {saysOf(file.error ?? fields.error)}
        </p>
      )}
      <div className="sticky bottom-0 -mx-4 mt-3 -mb-3 flex flex-wrap gap-2 border-t border-line bg-sheet px-4 py-2.5">
        <Button
          type="submit"
          look="main"
          ref={mainAct}
          disabled={!isReady || file.isPending}
          className="!h-auto min-h-[30px] max-w-full py-1 text-left !whitespace-normal"
        >
          {chosen === null ? 'File' : `File ${counted(picked.size, 'paper')} in ${chosen.path.slice(-2).join(', ')}`}
        </Button>
        <Button
          disabled={aside.isPending}
          onClick={() =>
            aside.mutate(
              { arrivalId, revision },
              {
                onSuccess: () => {
                  say.undoable('Set aside: not ours', undo);
                  onDone();
                },
              },
            )
          }
        >
          Not ours
        </Button>
        <NotNow sheet={sheet} onDone={onDone} />
      </div>
      {making && <NewDossierHere newcomer={sheet.newcomer} onMade={setOther} onClose={() => setMaking(false)} />}
      {choosing && <WhereDialog onChoose={setOther} onClose={() => setChoosing(false)} />}
    </form>
  );
}

/** The ids of the columns whose values were refused. */
const refusedColumns = (error: unknown): ReadonlySet<string> =>
  new Set(error instanceof Refusal ? (error.issue.fields ?? []).map(({ path }) => path.split('.').at(-1) ?? '') : []);
