'use client';

import { useState } from 'react';
import type { PackSheet } from '@/core/packs/contract';
import { stampPlaces, stampPlaceWords } from '@/core/packs/model';
import { FoundChooser } from '../choosing/FoundChooser';
import { blankIsNone, useActForm } from '../forms/useActForm';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, LongField, TextField } from '../kit/field';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** What stands on the cover, where pages are stamped, and whether sections have a sheet. */
export function CoverDialog({ sheet, onClose }: { readonly sheet: PackSheet; readonly onClose: () => void }) {
  const { id: packId, name, description, preparedBy, forWhom, day, stampPlace, sheets, revision } = sheet;
  const { form, submit, isPending, wrong, refused } = useActForm(
    'pack.set',
    { packId, name, description, preparedBy, forWhom, day, stampPlace, sheets, revision },
    onClose,
  );
  return (
    <Dialog title="Cover and stamps" about="Only the name is needed." open shape="wide" onClose={onClose}>
      <form noValidate onSubmit={submit}>
        <TextField label="Name" {...form.register('name')} wrong={wrong('name')} />
        <LongField label="Description" rows={2} {...form.register('description')} wrong={wrong('description')} />
        <div className="grid gap-x-4 sm:grid-cols-3">
          <TextField label="Prepared by" {...form.register('preparedBy')} wrong={wrong('preparedBy')} />
          <TextField label="For whom" {...form.register('forWhom')} wrong={wrong('forWhom')} />
          <TextField label="Date" type="date" {...form.register('day', blankIsNone)} wrong={wrong('day')} />
        </div>
        <div className="grid gap-x-4 sm:grid-cols-2">
          <ChoiceField label="Where pages are stamped" help="“Pack page 41 of 212”" {...form.register('stampPlace')}>
            {stampPlaces.map((each) => (
              <option key={each} value={each}>
                {stampPlaceWords[each]}
              </option>
            ))}
          </ChoiceField>
          <label className="flex items-center gap-2 sm:pt-5">
            <input type="checkbox" {...form.register('sheets')} className="size-[15px] accent-brine" />
            <span className="font-semibold">Each section begins with a sheet</span>
          </label>
        </div>
        <CoverPicture sheet={sheet} />
        {refused !== undefined && (
          <p role="alert" className="text-ember-ink">
            {refused}
          </p>
        )}
        <DialogActs>
          <Button look="main" type="submit" disabled={isPending}>
            Save
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}

/** The picture on the cover: chosen, or taken off, at once. */
function CoverPicture({ sheet: { id: packId, hasPicture } }: { readonly sheet: PackSheet }) {
  const set = useAct('pack.setPicture', { quiet: true });
  const [isChoosing, setChoosing] = useState(false);
  return (
    <div role="group" aria-label="The picture on the cover" className="mb-3.5">
      <p className="flex flex-wrap items-center gap-2">
        <span className="font-semibold">Picture</span>
        <span role="status" className="flex-1 text-soft">
          {set.isPending ? 'It is being drawn…' : hasPicture ? 'One is on the cover.' : 'None is on the cover.'}
        </span>
        <Button disabled={set.isPending} onClick={() => setChoosing(!isChoosing)}>
          {hasPicture ? 'Choose another…' : 'Choose a picture…'}
        </Button>
        {hasPicture && (
          <Button look="quiet" disabled={set.isPending} onClick={() => set.mutate({ packId, documentId: null })}>
            Take it off
          </Button>
        )}
      </p>
      {set.error && (
        <p role="alert" className="mt-1 text-sm text-ember-ink">
          {saysOf(set.error)}
        </p>
      )}
      {isChoosing && (
        <div className="mt-2">
          <FoundChooser
            label="Find a picture"
            placeholder="Find a picture of the library by its title"
            holds={({ kind }) => kind === 'paper'}
            onChoose={({ id: documentId }) =>
              set.mutate({ packId, documentId }, { onSuccess: () => setChoosing(false) })
            }
          />
        </div>
      )}
    </div>
  );
}
