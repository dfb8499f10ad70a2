'use client';

import { useState } from 'react';
import { groupRoles, type GroupRole, type GroupRow, type PersonRow, type TermRow } from '@/core/people/model';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { say } from '../kit/notice';
import { Pick } from '../kit/pick';
import { saysOf } from '../server/call';
import { ImpactLines } from '../access/ImpactLines';
import { useAct, useAsk } from '../server/useCall';

type Term = Pick<TermRow, 'member' | 'name' | 'role' | 'from' | 'until'> & { readonly key: string };

const isRole = (text: string): text is GroupRole => groupRoles.some((each) => each === text);

/** A group's name, and who is in it: people and other groups, as what, from when until when. */
export function GroupDialog({
  group,
  people,
  groups,
  onClose,
}: {
  readonly group: GroupRow;
  readonly people: readonly PersonRow[];
  readonly groups: readonly GroupRow[];
  readonly onClose: () => void;
}) {
  const [name, setName] = useState(group.name);
  const [terms, setTerms] = useState<readonly Term[]>(group.terms.map((term, at) => ({ ...term, key: String(at) })));
  const change = useAct('group.change', { quiet: true });
  const set = (term: Term, part: Partial<Term>) =>
    setTerms(terms.map((each) => (each === term ? { ...term, ...part } : each)));
  const add = (kind: 'person' | 'group', id: string, named: string) =>
    setTerms([
      ...terms,
      { key: crypto.randomUUID(), member: { kind, id }, name: named, role: 'member', from: null, until: null },
    ]);
  const asked = terms.map(({ member, role, from, until }) => ({ member, role, from, until }));
  const differs =
    JSON.stringify(asked) !==
    JSON.stringify(group.terms.map(({ member, role, from, until }) => ({ member, role, from, until })));
  const forecast = useAsk('group.forecast', { groupId: group.id, terms: asked }, { enabled: differs });
  const save = () =>
    change.mutate(
      {
        groupId: group.id,
        name,
        terms: asked,
        revision: group.revision,
      },
      {
        onSuccess: () => {
          say.done(`The group “${name.trim()}” is saved`);
          onClose();
        },
      },
    );
  const choices = [
    ...people
      .filter((each) => each.active)
      .map((each) => ({ id: `person ${each.id}`, name: each.name, about: each.email })),
    ...groups
      .filter((each) => each.id !== group.id)
      .map((each) => ({ id: `group ${each.id}`, name: each.name, about: 'all of this group' })),
  ];

  return (
    <Dialog
      title={`The group “${group.name}”`}
      about="Whoever is in it has what is open to the group, from the first day of their term to the last."
      open
      onClose={onClose}
      shape="wide"
    >
      <TextField label="Name" value={name} onChange={(event) => setName(event.target.value)} />
      <div className="overflow-x-auto">
        <table className="w-full text-left max-[599px]:block max-[599px]:[&>tbody]:block">
          <thead className="max-[599px]:hidden">
            <tr className="border-b border-line text-sm text-soft">
              <th scope="col" className="py-1 font-condensed">
                In it
              </th>
              <th scope="col" className="font-condensed">
                As
              </th>
              <th scope="col" className="font-condensed">
                From
              </th>
              <th scope="col" className="font-condensed">
                Until
              </th>
              <th scope="col">
                <span className="sr-only">Remove</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {terms.map((term) => (
              <TermLine
                key={term.key}
                term={term}
                onChange={(part) => set(term, part)}
                onRemove={() => setTerms(terms.filter((each) => each !== term))}
              />
            ))}
          </tbody>
        </table>
        {terms.length === 0 && <p className="py-2 text-soft">Nobody yet.</p>}
      </div>
      <div className="mt-2">
        <Pick
          label="Put someone in"
          shown="Put someone in…"
          items={choices}
          picked={[]}
          onPick={(picked) => {
            const [kind, id] = picked.split(' ');
            const choice = choices.find((each) => each.id === picked);
            if (choice && id !== undefined) add(kind === 'group' ? 'group' : 'person', id, choice.name);
          }}
          className="h-[30px] rounded-sm border border-line px-3 hover:border-edge"
        />
      </div>
      {differs && (
        <div className="mt-3 rounded-sm border border-line bg-fog px-4 py-3">
          {forecast.error ? (
            <p className="text-ember-ink">{saysOf(forecast.error)}</p>
          ) : (
            <ImpactLines lines={forecast.data} />
          )}
        </div>
      )}
      {change.error && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(change.error)}
        </p>
      )}
      <DialogActs>
        <Button look="main" disabled={change.isPending} onClick={save}>
          Save the group
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </DialogActs>
    </Dialog>
  );
}

const cell = 'h-[30px] rounded-sm border border-edge bg-sheet px-1.5';

function TermLine({
  term,
  onChange,
  onRemove,
}: {
  readonly term: Term;
  readonly onChange: (part: Partial<Term>) => void;
  readonly onRemove: () => void;
}) {
  const day = (which: 'from' | 'until', words: string) => (
    <input
      type="date"
      aria-label={`${term.name}, ${words}`}
      value={term[which] ?? ''}
      onChange={(event) => onChange({ [which]: event.target.value === '' ? null : event.target.value })}
      className={cell}
    />
  );
  return (
    <tr className="border-b border-line max-[599px]:grid max-[599px]:grid-cols-2 max-[599px]:gap-2 max-[599px]:py-2">
      <th scope="row" className="py-1 pr-2 font-normal">
        {term.name}
        {term.member.kind === 'group' && <span className="text-sm text-soft"> all of this group</span>}
      </th>
      <td className="pr-2">
        <select
          aria-label={`${term.name}, as what`}
          value={term.role}
          onChange={(event) => isRole(event.target.value) && onChange({ role: event.target.value })}
          className={cell}
        >
          {groupRoles.map((role) => (
            <option key={role} value={role}>
              {role}
            </option>
          ))}
        </select>
      </td>
      <td className="pr-2">
        <span className="text-sm text-soft min-[600px]:hidden">From </span>
        {day('from', 'first day')}
      </td>
      <td className="pr-2">
        <span className="text-sm text-soft min-[600px]:hidden">Until </span>
        {day('until', 'last day')}
      </td>
      <td className="text-right max-[599px]:col-span-2">
        <Button look="quiet" className="!px-1" aria-label={`Remove ${term.name}`} onClick={onRemove}>
          Remove
        </Button>
      </td>
    </tr>
  );
}
