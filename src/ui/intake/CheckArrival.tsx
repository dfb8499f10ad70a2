'use client';

import { useMemo, useState, type FormEvent } from 'react';
import { dayInWords } from '@/core/calendar/moment';
import type { ArrivalSheet } from '@/core/intake/contract';
import { evidenceInWords } from '@/core/intake/evidence';
import type { PlaceChoice } from '@/core/places/contract';
import { counted } from '@/core/text/measure';
import { PlaceChooser } from '../choosing/PlaceChooser';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { Stamp } from '../kit/stamp';
import { PaperContent } from '../reading/PaperContent';
import { sourceOf } from '../reading/source';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

const againMs = 2000;

/** One arrival as somebody checks it: what it is in the middle, beside it where it would go and why. */
export function CheckArrival({ arrivalId, onDone }: { readonly arrivalId: string; readonly onDone: () => void }) {
  const { data, error } = useAsk('arrival.of', { arrivalId });
  const [shown, setShown] = useState<number | null | undefined>(undefined);
  if (error)
    return (
      <p role="alert" className="p-6">
        {saysOf(error)}
      </p>
    );
  if (!data) return null;
  const first = data.parts.find(({ counts }) => counts) ?? data.parts[0];
  const part = shown === undefined ? (first?.attachment ?? null) : shown;
  return (
    <div className="flex min-h-0 flex-1 max-[900px]:flex-col max-[900px]:overflow-y-auto">
      <section aria-label="What arrived" className="min-h-0 min-w-0 flex-1 bg-mist max-[900px]:min-h-[60vh]">
        <Content arrivalId={arrivalId} title={data.subject} attachment={part} />
      </section>
      <aside
        aria-label="Where it goes"
        className="w-[350px] shrink-0 overflow-y-auto border-l border-line bg-sheet max-[900px]:order-first max-[900px]:w-full max-[900px]:border-l-0 max-[1100px]:w-[310px]"
      >
        <Head sheet={data} />
        {data.state === 'waiting' ? (
          <Check key={data.revision} sheet={data} shown={part} onShow={setShown} onDone={onDone} />
        ) : (
          <Done sheet={data} />
        )}
      </aside>
    </div>
  );
}

function Content({
  arrivalId,
  title,
  attachment,
}: {
  readonly arrivalId: string;
  readonly title: string;
  readonly attachment: number | null;
}) {
  const { data } = useAsk(
    'arrival.reading',
    { arrivalId, attachment },
    { again: ({ state }) => (state === 'waiting' || state === 'beingRead') && againMs },
  );
  const source = useMemo(
    () => data && sourceOf(`/api/arrival/${arrivalId}`, title, data, attachment === null ? {} : { attachment }, null),
    [data, arrivalId, title, attachment],
  );
  return source ? <PaperContent key={attachment} source={source} startAt={1} onAttachment={null} /> : null;
}

function Head({ sheet }: { readonly sheet: ArrivalSheet }) {
  const { timeZone } = useSurroundings();
  const { subject, sender, senderAddress, sentBy, automatic, arrivedAt } = sheet;
  return (
    <div className="border-b border-line px-4 py-3">
      <h2 className="font-condensed text-lg leading-tight">{subject === '' ? 'No subject' : subject}</h2>
      <p className="text-sm text-soft">
        From {sender === '' ? 'nobody that it names' : sender}
        {senderAddress !== '' && senderAddress !== sender && ` (${senderAddress})`}, {dayInWords(arrivedAt, timeZone)}
      </p>
      {sentBy !== null && (
        <p className="mt-1 rounded-sm border border-straw-edge bg-straw px-2 py-1 text-sm text-straw-ink">
          It was sent by {sentBy}. Whose name it bears is only what it says.
        </p>
      )}
      {automatic && <p className="text-sm text-soft">A program sent it by itself.</p>}
    </div>
  );
}

type Chosen = Pick<PlaceChoice, 'id' | 'path'>;

function Check({
  sheet,
  shown,
  onShow,
  onDone,
}: {
  readonly sheet: ArrivalSheet;
  readonly shown: number | null;
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
  const [other, setOther] = useState<Chosen | null>(null);
  const [at, setAt] = useState(0);
  const [choosing, setChoosing] = useState(false);
  const proposed = places[at];
  const target: Chosen | null = other ?? (proposed ? { id: proposed.placeId, path: proposed.path } : null);
  const isReady = target !== null && picked.size > 0 && ![...picked.values()].some((title) => title.trim() === '');
  const set = (attachment: number | null, title: string | null) => {
    const next = new Map(picked);
    if (title === null) next.delete(attachment);
    else next.set(attachment, title);
    setPicked(next);
  };
  const undo = () => back.mutate({ arrivalId });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!isReady || file.isPending) return;
    file.mutate(
      {
        arrivalId,
        revision,
        placeId: target.id,
        parts: [...picked].map(([attachment, title]) => ({ attachment, title })),
      },
      {
        onSuccess: ({ documentIds }) => {
          say.undoable(`${counted(documentIds.length, 'paper')} filed in ${target.path.at(-1) ?? ''}`, undo);
          onDone();
        },
      },
    );
  };
  return (
    <form
      onSubmit={submit}
      // A key that is held down files one, and not what comes after it.
      onKeyDown={(event) => event.repeat && event.key === 'Enter' && event.preventDefault()}
      className="px-4 py-3"
    >
      <fieldset>
        <legend className="font-condensed text-[11.5px] tracking-wide text-soft uppercase">To be filed</legend>
        {parts.map((part) => (
          <PartLine
            key={part.attachment ?? 'mail'}
            part={part}
            title={picked.get(part.attachment) ?? null}
            isShown={part.attachment === shown}
            onShow={() => onShow(part.attachment)}
            onTitle={(title) => set(part.attachment, title)}
          />
        ))}
      </fieldset>
      <h3 className="mt-3 font-condensed text-[11.5px] tracking-wide text-soft uppercase">Where</h3>
      {other === null &&
        places.map(({ placeId, path, evidence }, index) => (
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
              {evidence.map((each) => (
                <span key={each.kind} className="block text-sm text-soft">
                  {evidenceInWords(each)}
                </span>
              ))}
            </span>
          </label>
        ))}
      {other === null && places.length === 0 && (
        <p className="text-soft">Nothing in it says where it belongs. Choose a place.</p>
      )}
      {other === null && places.length > 1 && !standsOut && (
        <p className="text-sm text-ember-ink">It may be either: look before you file it.</p>
      )}
      {other !== null && <p className="py-1">{other.path.join(' / ')}</p>}
      <Button look="quiet" className="!px-0" onClick={() => setChoosing(true)}>
        Another place…
      </Button>
      {file.error && (
        <p role="alert" className="my-2 text-ember-ink">
          {saysOf(file.error)}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button
          type="submit"
          look="main"
          autoFocus={standsOut}
          disabled={!isReady || file.isPending}
          className="!h-auto min-h-[30px] max-w-full py-1 text-left !whitespace-normal"
        >
          {target === null ? 'File' : `File ${counted(picked.size, 'paper')} in ${target.path.slice(-2).join(', ')}`}
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
      </div>
      {choosing && (
        <Dialog title="Where it goes" open onClose={() => setChoosing(false)}>
          <PlaceChooser
            label="Where it goes"
            capability="add"
            onChoose={(place) => {
              setOther(place);
              setChoosing(false);
            }}
          />
        </Dialog>
      )}
    </form>
  );
}

function PartLine({
  part: { attachment, name, stamp, filedAlready },
  title,
  isShown,
  onShow,
  onTitle,
}: {
  readonly part: ArrivalSheet['parts'][number];
  /** Null: it is not filed. */
  readonly title: string | null;
  readonly isShown: boolean;
  readonly onShow: () => void;
  readonly onTitle: (title: string | null) => void;
}) {
  const [kept, setKept] = useState(title ?? name);
  const called = attachment === null ? 'The mail itself' : name;
  return (
    <div className="border-b border-line py-1.5">
      <div className="flex items-center gap-2">
        <input
          type="checkbox"
          aria-label={`File ${called}`}
          checked={title !== null}
          onChange={({ target }) => onTitle(target.checked ? kept : null)}
          className="size-[15px] shrink-0 accent-brine"
        />
        <Stamp word={stamp} />
        <button
          type="button"
          aria-current={isShown || undefined}
          onClick={onShow}
          className="min-h-[24px] min-w-0 flex-1 truncate text-left hover:underline aria-[current]:font-medium"
        >
          {called}
        </button>
      </div>
      {title !== null && (
        <input
          aria-label={`Title of ${called}`}
          value={title}
          maxLength={240}
          onChange={({ target }) => {
            setKept(target.value);
            onTitle(target.value);
          }}
          className="mt-1 h-[30px] w-full rounded-sm border border-edge bg-sheet px-2"
        />
      )}
      {filedAlready.map(({ id, title: filed, place }) => (
        <p key={id} className="text-sm text-soft">
          Filed already:{' '}
          <Link href={`/paper/${id}`} className="text-brine-ink underline">
            {filed}
          </Link>
          , {place}
        </p>
      ))}
    </div>
  );
}

function Done({ sheet: { id: arrivalId, done, state } }: { readonly sheet: ArrivalSheet }) {
  const { timeZone } = useSurroundings();
  const back = useAct('arrival.takeBack');
  if (done === null) return null;
  return (
    <div className="px-4 py-3">
      <p>
        {state === 'notOurs' ? 'Set aside as not ours' : 'Filed'} by {done.by}, {dayInWords(done.at, timeZone)}.
      </p>
      <ul>
        {done.papers.map(({ id, title }) => (
          <li key={id}>
            <Link href={`/paper/${id}`} className="text-brine-ink underline">
              {title}
            </Link>
          </li>
        ))}
      </ul>
      <Button className="mt-2" disabled={back.isPending} onClick={() => back.mutate({ arrivalId })}>
        Check it again
      </Button>
      {state === 'filed' && <p className="mt-1 text-sm text-soft">Its papers then go into the disposal tray.</p>}
    </div>
  );
}
