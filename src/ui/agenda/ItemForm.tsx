'use client';

import { useState } from 'react';
import type { AgendaItemRow, AgendaSheet } from '@/core/agenda/contract';
import { itemKinds, itemKindWords } from '@/core/agenda/model';
import { Refusal } from '@/core/errors/refusal';
import { Button } from '../kit/button';
import { CheckField, ChoiceField, LongField, TextField } from '../kit/field';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** Changes what an item says, and who may know of it. */
export function ItemForm({
  item,
  sheet: { attendees, meeting },
  onClose,
}: {
  readonly item: AgendaItemRow;
  readonly sheet: AgendaSheet;
  readonly onClose: () => void;
}) {
  const change = useAct('agenda.changeItem', { quiet: true });
  const [title, setTitle] = useState(item.title ?? '');
  const [presenter, setPresenter] = useState(item.presenter);
  const [minutes, setMinutes] = useState(item.minutes === null ? '' : String(item.minutes));
  const [kind, setKind] = useState(item.kind);
  const [notes, setNotes] = useState(item.notes);
  const [readers, setReaders] = useState(item.readers?.map(({ personId }) => personId) ?? null);
  const [carriesOver, setCarriesOver] = useState(item.carriesOver);
  const [takesCarried, setTakesCarried] = useState(item.takesCarried);
  const issue = change.error instanceof Refusal ? change.error.issue : null;
  const wrong = (path: string) => issue?.fields?.find((field) => field.path === path)?.says;
  // Those who attend, and those who were chosen before and do not attend any more.
  const people = [
    ...attendees.flatMap(({ personId, name }) => (personId === null ? [] : [{ personId, name }])),
    ...(item.readers ?? []).filter((reader) => !attendees.some(({ personId }) => personId === reader.personId)),
  ];
  return (
    <form
      noValidate
      onKeyDown={(event) => event.key === 'Escape' && onClose()}
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate(
          {
            itemId: item.id,
            title,
            presenter,
            minutes: minutes.trim() === '' ? null : Number(minutes),
            kind,
            notes,
            readers,
            carriesOver,
            takesCarried,
            revision: item.revision,
          },
          { onSuccess: onClose },
        );
      }}
    >
      <TextField
        label="Title"
        autoFocus
        value={title}
        maxLength={300}
        wrong={wrong('title')}
        onChange={({ target }) => setTitle(target.value)}
      />
      <div className="grid gap-x-4 sm:grid-cols-3">
        <TextField
          label="Presented by"
          value={presenter}
          maxLength={120}
          list="attendees"
          wrong={wrong('presenter')}
          onChange={({ target }) => setPresenter(target.value)}
        />
        <datalist id="attendees">
          {attendees.map(({ id, name }) => (
            <option key={id} value={name} />
          ))}
        </datalist>
        <TextField
          label="Minutes"
          inputMode="numeric"
          value={minutes}
          wrong={wrong('minutes')}
          onChange={({ target }) => setMinutes(target.value)}
        />
        <ChoiceField
          label="What for"
          value={kind ?? ''}
          onChange={({ target }) => setKind(itemKinds.find((each) => each === target.value) ?? null)}
        >
          <option value="">Not said</option>
          {itemKinds.map((each) => (
            <option key={each} value={each}>
              {itemKindWords[each]}
            </option>
          ))}
        </ChoiceField>
      </div>
      <LongField
        label="Notes"
        value={notes}
        maxLength={5000}
        rows={2}
        wrong={wrong('notes')}
        onChange={({ target }) => setNotes(target.value)}
      />
      {meeting && (
        <fieldset className="mb-3.5">
          <legend className="sr-only">Who may know of it</legend>
          <CheckField
            label="Confidential"
            help="Only those ticked are told what it is, with its papers and what lies in it; and who may change the agenda. Others see its number."
            checked={readers !== null}
            onChange={(checked) => setReaders(checked ? [] : null)}
          />
          {readers !== null && (
            <span className="ml-6 flex flex-wrap gap-x-5 gap-y-1">
              {people.map(({ personId, name }) => (
                <label key={personId} className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    checked={readers.includes(personId)}
                    onChange={({ target }) =>
                      setReaders(target.checked ? [...readers, personId] : readers.filter((each) => each !== personId))
                    }
                    className="size-[15px] accent-brine"
                  />
                  {name}
                </label>
              ))}
              {people.length === 0 && (
                <span className="text-sm text-soft">Say who attends first: then you can tick them here.</span>
              )}
            </span>
          )}
        </fieldset>
      )}
      {meeting ? (
        <CheckField label="Goes on the next agenda too" checked={carriesOver} onChange={setCarriesOver} />
      ) : (
        item.parentId === null && (
          <CheckField
            label="Takes what the last meeting carried over"
            checked={takesCarried}
            onChange={setTakesCarried}
          />
        )
      )}
      {issue && !issue.fields && (
        <p role="alert" className="mb-2 text-sm text-ember-ink">
          {saysOf(change.error)}
        </p>
      )}
      <span className="mb-1 flex gap-2">
        <Button type="submit" disabled={change.isPending}>
          Save
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
      </span>
    </form>
  );
}
