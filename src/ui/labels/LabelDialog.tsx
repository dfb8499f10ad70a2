'use client';

import { useState } from 'react';
import type { Label } from '@/core/labels/model';
import { hues, type Hue } from '@/core/text/hue';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct } from '../server/useCall';
import { useAsOpened } from '../forms/useAsOpened';

/** Renames, recolours, merges or deletes a label. Papers are not affected. */
export function LabelDialog({
  label: labelNow,
  labels,
  onClose,
}: {
  readonly label: Label;
  readonly labels: readonly Label[];
  readonly onClose: () => void;
}) {
  const label = useAsOpened(labelNow);
  const change = useAct('label.change', { quiet: true });
  const merge = useAct('label.merge', { quiet: true });
  const remove = useAct('label.remove', { quiet: true });
  const [name, setName] = useState(label.name);
  const [hue, setHue] = useState<Hue>(label.hue);
  const [into, setInto] = useState('');
  const others = labels.filter((each) => each.id !== label.id && each.shared === label.shared);
  const wrong = change.error ?? merge.error ?? remove.error;
  const target = others.find((each) => each.id === into);
  return (
    <Dialog
      title={`Label “${label.name}”`}
      about={`${counted(label.papers, 'paper')} have it. Papers stay as they are, whatever happens to the label.`}
      open
      onClose={onClose}
    >
      <TextField
        label="Name"
        value={name}
        onChange={(event) => setName(event.target.value)}
        wrong={wrong ? saysOf(wrong) : undefined}
      />
      <ChoiceField
        label="Hue"
        value={hue}
        onChange={(event) => setHue(hues.find((each) => each === event.target.value) ?? label.hue)}
      >
        {hues.map((each) => (
          <option key={each} value={each}>
            {each}
          </option>
        ))}
      </ChoiceField>
      <Button
        look="main"
        disabled={change.isPending}
        onClick={() =>
          change.mutate({ labelId: label.id, name, hue, revision: label.revision }, { onSuccess: onClose })
        }
      >
        Save the label
      </Button>
      {others.length > 0 && (
        <div className="mt-5 border-t border-line pt-3">
          <ChoiceField label="Merge it into" value={into} onChange={(event) => setInto(event.target.value)}>
            <option value="">Choose a label</option>
            {others.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </ChoiceField>
          {target && (
            <Button
              onClick={() =>
                merge.mutate(
                  { labelId: label.id, intoId: target.id },
                  {
                    onSuccess: ({ papers }) => {
                      say.done(`${counted(papers, 'paper')} now have “${target.name}”`);
                      onClose();
                    },
                  },
                )
              }
            >
              Merge into {target.name}
            </Button>
          )}
        </div>
      )}
      <DialogActs>
        <Button
          onClick={() =>
            remove.mutate(
              { labelId: label.id },
              {
                onSuccess: ({ papers }) => {
                  say.done(`“${label.name}” is deleted; ${counted(papers, 'paper')} that had it stay as they are`);
                  onClose();
                },
              },
            )
          }
        >
          Delete the label
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
