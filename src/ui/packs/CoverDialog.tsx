'use client';

import type { PackSheet } from '@/core/packs/contract';
import { stampPlaces, stampPlaceWords } from '@/core/packs/model';
import { blankIsNone, useActForm } from '../forms/useActForm';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, LongField, TextField } from '../kit/field';

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
