'use client';

import { useState } from 'react';
import { Lexicon } from '@/core/columns/lexicon';
import type { ControlledList, Term } from '@/core/columns/model';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { ChoiceField, LongField, TextField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** Changes a value's spelling, other names and level, or merges it into another after a count. */
export function TermDialog({
  term,
  list,
  onClose,
}: {
  readonly term: Term;
  readonly list: ControlledList;
  readonly onClose: () => void;
}) {
  const change = useAct('term.change', { quiet: true });
  const merge = useAct('term.merge', { quiet: true });
  const [name, setName] = useState(term.name);
  const [others, setOthers] = useState(term.otherNames.join('\n'));
  const [parentId, setParentId] = useState(term.parentId ?? '');
  const [into, setInto] = useState('');
  const lexicon = new Lexicon(list.terms);
  const elsewhere = lexicon.inOrder().filter((each) => !lexicon.ancestry(each.term.id).includes(term.id));
  const forecast = useAsk('term.mergeForecast', { termId: term.id, intoId: into }, { enabled: into !== '' });
  const target = lexicon.term(into);
  return (
    <Dialog title={`“${term.name}” on ${list.name}`} open onClose={onClose}>
      <TextField
        label="Preferred spelling"
        value={name}
        onChange={(event) => setName(event.target.value)}
        wrong={change.error ? saysOf(change.error) : undefined}
      />
      <LongField
        label="Other names that lead to it"
        help="One a line."
        value={others}
        onChange={(event) => setOthers(event.target.value)}
      />
      <ChoiceField label="Stands under" value={parentId} onChange={(event) => setParentId(event.target.value)}>
        <option value="">nothing: it is at the top</option>
        {elsewhere.map((each) => (
          <option key={each.term.id} value={each.term.id}>
            {lexicon.wayTo(each.term.id)}
          </option>
        ))}
      </ChoiceField>
      <Button
        look="main"
        disabled={change.isPending}
        onClick={() =>
          change.mutate(
            {
              termId: term.id,
              name,
              otherNames: others
                .split('\n')
                .map((each) => each.trim())
                .filter(Boolean),
              parentId: parentId === '' ? null : parentId,
            },
            { onSuccess: onClose },
          )
        }
      >
        Save the value
      </Button>
      <div className="mt-5 border-t border-line pt-3">
        <ChoiceField
          label="Merge it into"
          help="All papers follow, and its names lead to the other from then on."
          value={into}
          onChange={(event) => setInto(event.target.value)}
        >
          <option value="">Choose a value</option>
          {list.terms
            .filter((each) => each.id !== term.id)
            .map((each) => (
              <option key={each.id} value={each.id}>
                {lexicon.wayTo(each.id)}
              </option>
            ))}
        </ChoiceField>
        {forecast.error && (
          <p role="alert" className="text-ember-ink">
            {saysOf(forecast.error)}
          </p>
        )}
        {forecast.data && target && (
          <>
            <p role="status" className="mb-2">
              {counted(forecast.data.papers, 'paper')} and {counted(forecast.data.places, 'place')} would get “
              {target.name}”. This cannot be undone.
            </p>
            <Button
              disabled={merge.isPending}
              onClick={() =>
                merge.mutate(
                  { termId: term.id, intoId: into },
                  {
                    onSuccess: ({ papers }) => {
                      say.done(`${counted(papers, 'paper')} now say “${target.name}”`);
                      onClose();
                    },
                  },
                )
              }
            >
              Merge into {target.name}
            </Button>
          </>
        )}
      </div>
      <DialogActs>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}
