'use client';

import { useState } from 'react';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import type { PlaceDialogProps } from './placeDialog';
import { useAsOpened } from '../forms/useAsOpened';

/** Sets the day of the meeting whose folder it is. */
export function MeetingDayDialog({ page, onClose }: PlaceDialogProps) {
  const { place } = useAsOpened(page);
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
          {day === '' ? 'Not a meeting’s folder' : 'Set the day of the meeting'}
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
