'use client';

import { useState } from 'react';
import type { GroupRow, PersonRow } from '@/core/people/model';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';

/** A group's name and who is in it. */
export function GroupDialog({
  group,
  people,
  onClose,
}: {
  readonly group: GroupRow;
  readonly people: readonly PersonRow[];
  readonly onClose: () => void;
}) {
  const [name, setName] = useState(group.name);
  const [members, setMembers] = useState<ReadonlySet<string>>(new Set(group.members.map((member) => member.id)));
  const change = useAct('group.change', { quiet: true });
  const save = () =>
    change.mutate(
      { groupId: group.id, name, memberIds: [...members], revision: group.revision },
      {
        onSuccess: () => {
          say.done(`The group “${name.trim()}” is saved`);
          onClose();
        },
      },
    );
  return (
    <Dialog
      title={`The group “${group.name}”`}
      about="Whoever is in it has what is open to the group."
      open
      onClose={onClose}
    >
      <TextField
        label="Name"
        value={name}
        onChange={(event) => setName(event.target.value)}
        wrong={change.error ? saysOf(change.error) : undefined}
      />
      <fieldset>
        <legend className="mb-1 text-sm font-semibold">People in it</legend>
        <div className="max-h-[36vh] overflow-y-auto rounded-sm border border-line">
          {people.map((person) => (
            <label key={person.id} className="flex items-center gap-2.5 border-b border-line px-3 py-1.5 last:border-0">
              <input
                type="checkbox"
                checked={members.has(person.id)}
                onChange={() =>
                  setMembers(
                    new Set(
                      members.has(person.id) ? [...members].filter((id) => id !== person.id) : [...members, person.id],
                    ),
                  )
                }
                className="size-4 accent-brine"
              />
              <span className="flex-1">{person.name}</span>
              <span className="text-sm text-soft">{person.active ? person.email : 'switched off'}</span>
            </label>
          ))}
        </div>
      </fieldset>
      <DialogActs>
        <Button look="main" disabled={change.isPending} onClick={save}>
          Save the group
        </Button>
        <Button onClick={onClose}>Leave it as it was</Button>
      </DialogActs>
    </Dialog>
  );
}
