'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { NameDialog } from '../forms/NameDialog';
import { TextField } from '../kit/field';
import { childAddress } from '../layout/addresses';
import { useAct } from '../server/useCall';
import type { PlaceDialogProps } from './placeDialog';

/** Makes a folder: in this place alone, or common to all dossiers of its series. */
export function NewFolderDialog({ page, onClose }: PlaceDialogProps) {
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
          <legend className="mb-1 text-sm font-semibold">Belongs to</legend>
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
