'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { PlaceChoice } from '@/core/places/contract';
import { Refusal } from '@/core/errors/refusal';
import { hues, type PlacePage } from '@/core/places/model';
import { DetailFields } from '../filing/DetailFields';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { childAddress } from './addresses';
import { CommonDialog } from './CommonDialog';
import { Consequences } from './Consequences';
import { NameDialog } from './NameDialog';
import { PlaceChooser } from './PlaceChooser';

export type PlaceDialogKind =
  'dossier' | 'folder' | 'common' | 'rename' | 'reference' | 'pattern' | 'move' | 'colour' | 'meeting' | 'remove';

interface Props {
  readonly page: PlacePage;
  readonly onClose: () => void;
}

/** The dialogues in which a place is made, changed or moved. */
export function PlaceDialogs({ kind, ...props }: Props & { readonly kind: PlaceDialogKind }) {
  switch (kind) {
    case 'dossier':
      return <NewDossier {...props} />;
    case 'folder':
      return <NewFolder {...props} />;
    case 'common':
      return <CommonDialog {...props} />;
    case 'rename':
      return <Rename {...props} />;
    case 'reference':
      return <Reference {...props} />;
    case 'pattern':
      return <Pattern {...props} />;
    case 'move':
      return <MovePlaceDialog placeId={props.page.place.id} name={props.page.place.name} onClose={props.onClose} />;
    case 'colour':
      return <Colour {...props} />;
    case 'meeting':
      return <Meeting {...props} />;
    case 'remove':
      return <Remove {...props} />;
  }
}

function NewDossier({ page, onClose }: Props) {
  const router = useRouter();
  const create = useAct('dossier.create', { quiet: true });
  const next = useAsk('place.nextReference', { seriesId: page.place.id });
  const [reference, setReference] = useState<string | null>(null);
  const proposed = next.data?.reference ?? '';
  const fields = useAsk('details.fields', { seriesId: page.place.id });
  const [details, setDetails] = useState<Readonly<Record<string, string>>>({});
  const wrongs = create.error instanceof Refusal ? (create.error.issue.fields ?? []) : [];
  return (
    <NameDialog
      title={`New dossier in ${page.place.name}`}
      label="Name"
      help="The committee, client, supplier or project."
      act="Make the dossier"
      isElsewhere={(path) => path.startsWith('details.')}
      onClose={onClose}
      onSave={async (name) => {
        const typed = reference ?? '';
        const made = await create.mutateAsync({
          seriesId: page.place.id,
          name,
          reference: typed === '' ? null : typed,
          details,
        });
        router.push(`/place/${made.id}`);
      }}
    >
      <TextField
        label="Reference"
        value={reference ?? proposed}
        onChange={(event) => setReference(event.target.value)}
        help={
          proposed === '' ? 'Optional; this series has no pattern for references.' : `The next free one is ${proposed}.`
        }
      />
      <DetailFields fields={fields.data?.fields ?? []} typed={details} wrongs={wrongs} onTyped={setDetails} />
    </NameDialog>
  );
}

function NewFolder({ page, onClose }: Props) {
  const router = useRouter();
  const create = useAct('folder.create', { quiet: true });
  const [meetingDay, setMeetingDay] = useState('');
  const [common, setCommon] = useState(false);
  const series = page.path[0] ?? page.place;
  const mayBe =
    page.capabilities.includes('manage') &&
    (page.place.kind === 'series' || (page.place.filingYear === null && page.withinId === null));
  const choices = [
    { is: false, label: `Only in ${page.place.name}` },
    { is: true, label: `Common: kept once, and seen in every dossier of ${series.name}` },
  ];
  return (
    <NameDialog
      title={`New folder in ${page.place.name}`}
      label="Name"
      act={common ? `Make the common folder` : `Make the folder in ${page.place.name}`}
      onClose={onClose}
      onSave={async (name) => {
        const made = await create.mutateAsync({
          parentId: page.place.id,
          name,
          meetingDay: meetingDay === '' ? null : meetingDay,
          common,
        });
        if (common) router.push(childAddress(page, made));
      }}
    >
      {mayBe && (
        <fieldset className="mb-3">
          <legend className="mb-1 text-sm font-semibold">Whose it is</legend>
          {choices.map((choice) => (
            <label key={choice.label} className="flex items-center gap-2.5 py-1">
              <input
                type="radio"
                name="whose"
                checked={common === choice.is}
                onChange={() => setCommon(choice.is)}
                className="size-4 accent-brine"
              />
              {choice.label}
            </label>
          ))}
        </fieldset>
      )}
      {!common && (
        <TextField
          label="Day of the meeting"
          type="date"
          value={meetingDay}
          onChange={(event) => setMeetingDay(event.target.value)}
          help="Only for the folder of a meeting: columns can be bound to its day."
        />
      )}
    </NameDialog>
  );
}

function Rename({ page: { place }, onClose }: Props) {
  const rename = useAct('place.rename', { quiet: true });
  return (
    <NameDialog
      title={`Rename “${place.name}”`}
      label="Name"
      value={place.name}
      act="Rename it"
      onClose={onClose}
      onSave={async (name) => {
        const { revision } = await rename.mutateAsync({ placeId: place.id, name, revision: place.revision });
        say.undoable(`Renamed to “${name.trim()}”`, () =>
          rename.mutate({ placeId: place.id, name: place.name, revision }),
        );
      }}
    />
  );
}

function Reference({ page: { place }, onClose }: Props) {
  const set = useAct('dossier.setReference', { quiet: true });
  return (
    <NameDialog
      title={`Reference of “${place.name}”`}
      label="Reference"
      value={place.reference ?? ''}
      mayBeEmpty
      act="Set the reference"
      onClose={onClose}
      onSave={(reference) => set.mutateAsync({ placeId: place.id, reference, revision: place.revision })}
    />
  );
}

function Pattern({ page: { place }, onClose }: Props) {
  const set = useAct('series.setPattern', { quiet: true });
  return (
    <NameDialog
      title={`References in “${place.name}”`}
      label="Pattern"
      value={place.referencePattern ?? ''}
      mayBeEmpty
      help="# stands for a digit of the running number, {yy} for the filing year: T-###, W-{yy}-##."
      act="Set the pattern"
      onClose={onClose}
      onSave={(referencePattern) => set.mutateAsync({ placeId: place.id, referencePattern, revision: place.revision })}
    />
  );
}

/** Moves a place with all below it, after saying who loses and gains sight of it. */
export function MovePlaceDialog({
  placeId,
  name,
  to,
  onClose,
}: {
  readonly placeId: string;
  readonly name: string;
  readonly to?: Pick<PlaceChoice, 'id' | 'name'>;
  readonly onClose: () => void;
}) {
  const [chosen, setChosen] = useState<Pick<PlaceChoice, 'id' | 'name'> | undefined>(to);
  const move = useAct('place.move');
  const forecast = useAsk('place.moveForecast', { placeId, toId: chosen?.id ?? '' }, { enabled: chosen !== undefined });
  return (
    <Dialog title={`Move “${name}”`} open onClose={onClose}>
      {chosen ? (
        <p>
          To <strong>{chosen.name}</strong>{' '}
          <Button look="quiet" onClick={() => setChosen(undefined)}>
            Choose another place
          </Button>
        </p>
      ) : (
        <PlaceChooser label="Where to" capability="manage" onChoose={setChosen} />
      )}
      {forecast.data && chosen && <Consequences {...forecast.data} />}
      {forecast.error && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(forecast.error)}
        </p>
      )}
      <DialogActs>
        {chosen && (
          <Button
            look="main"
            disabled={!forecast.data || move.isPending}
            onClick={() =>
              move.mutate(
                { placeId, toId: chosen.id },
                {
                  onSuccess: ({ fromId }) => {
                    say.undoable(`“${name}” moved to “${chosen.name}”`, () => move.mutate({ placeId, toId: fromId }));
                    onClose();
                  },
                },
              )
            }
          >
            Move it to {chosen.name}
          </Button>
        )}
        <Button onClick={onClose}>Leave it where it is</Button>
      </DialogActs>
    </Dialog>
  );
}

function Colour({ page: { place }, onClose }: Props) {
  const recolour = useAct('place.recolour');
  const choose = (colour: (typeof hues)[number] | null) =>
    recolour.mutate({ placeId: place.id, colour }, { onSuccess: onClose });
  return (
    <Dialog
      title={`Colour mark of “${place.name}”`}
      about="A narrow mark at its row, the same for everyone."
      open
      onClose={onClose}
    >
      <div className="grid grid-cols-3 gap-2">
        {hues.map((hue) => (
          <Button
            key={hue}
            data-hue={hue}
            aria-pressed={place.colour === hue}
            onClick={() => choose(hue)}
            className={place.colour === hue ? '!border-ink' : ''}
          >
            <span aria-hidden className="h-4 w-[5px]" style={{ background: 'var(--hue)' }} />
            <span className="first-letter:uppercase">{hue}</span>
          </Button>
        ))}
      </div>
      <DialogActs>
        <Button onClick={() => choose(null)}>No mark</Button>
      </DialogActs>
    </Dialog>
  );
}

function Meeting({ page: { place }, onClose }: Props) {
  const set = useAct('folder.setMeeting', { quiet: true });
  const [day, setDay] = useState(place.meetingDay ?? '');
  return (
    <Dialog
      title={`The meeting of “${place.name}”`}
      about="Columns bound to the day of the meeting follow."
      open
      onClose={onClose}
    >
      <TextField
        label="Day of the meeting"
        type="date"
        value={day}
        onChange={(event) => setDay(event.target.value)}
        wrong={set.error ? saysOf(set.error) : undefined}
      />
      <DialogActs>
        <Button
          look="main"
          disabled={set.isPending}
          onClick={() =>
            set.mutate(
              { placeId: place.id, meetingDay: day === '' ? null : day, revision: place.revision },
              {
                onSuccess: ({ papers }) => {
                  say.done(`Saved; ${papers === 1 ? '1 paper' : `${papers} papers`} changed with it`);
                  onClose();
                },
              },
            )
          }
        >
          {day === '' ? 'It is no meeting’s folder' : 'Set the day of the meeting'}
        </Button>
        <Button onClick={onClose}>Leave it</Button>
      </DialogActs>
    </Dialog>
  );
}

function Remove({ page: { place }, onClose }: Props) {
  const router = useRouter();
  const remove = useAct('place.remove', { quiet: true });
  return (
    <Dialog
      title={`Remove “${place.name}”`}
      about="Only an empty place is removed; papers are never removed with it."
      open
      onClose={onClose}
    >
      {remove.error && (
        <p role="alert" className="text-ember-ink">
          {saysOf(remove.error)}
        </p>
      )}
      <DialogActs>
        <Button onClick={onClose}>Keep it</Button>
        <Button
          look="main"
          disabled={remove.isPending}
          onClick={() =>
            remove.mutate(
              { placeId: place.id },
              {
                onSuccess: ({ parentId }) => {
                  say.done(`“${place.name}” is removed`);
                  router.push(place.kind === 'series' ? '/desk' : `/place/${parentId}`);
                },
              },
            )
          }
        >
          Remove it
        </Button>
      </DialogActs>
    </Dialog>
  );
}
