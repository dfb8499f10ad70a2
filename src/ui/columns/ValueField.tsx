'use client';

import { useState } from 'react';
import { asText, inWords } from '@/core/columns/format';
import type { Lexicon } from '@/core/columns/lexicon';
import { isListed, isReferring, type Column, type Value } from '@/core/columns/model';
import { asChoices, readText } from '@/core/columns/read';
import { Pick, type PickItem } from '../kit/pick';
import { useAct } from '../server/useCall';
import { useChoices } from '../server/useChoices';
import { useSurroundings } from '../surroundings/Surroundings';
import { lexiconOf, namesFrom } from './useColumns';
import { latelyUsed, rememberUse } from './lately';

interface Props {
  readonly column: Column;
  readonly value: Value | null;
  /** Shown instead of a value: that several differ, or nothing. */
  readonly instead?: string | undefined;
  readonly lexicons: ReadonlyMap<string, Lexicon>;
  readonly names: Readonly<Record<string, string>>;
  readonly onSet: (value: Value | null) => void;
}

/** The control for one value of a column: picked from its list, or typed and read as the column reads it. */
export function ValueField(props: Props) {
  const { column } = props;
  if (isListed(column.type)) return <ListedField {...props} />;
  if (isReferring(column.type)) return <ReferringField {...props} />;
  if (column.type === 'yesNo') return <YesNoField {...props} />;
  return <TypedField key={`${column.id} ${JSON.stringify(props.value)}`} {...props} />;
}

const Shown = ({ words, instead }: { readonly words: string; readonly instead: string | undefined }) =>
  words !== '' ? <>{words}</> : <span className="text-soft">{instead ?? 'Choose'}</span>;

function ListedField({ column, value, instead, lexicons, names, onSet }: Props) {
  const { me } = useSurroundings();
  const addTerm = useAct('term.add');
  const lexicon = lexiconOf(column, lexicons);
  const picked = Array.isArray(value) ? (value as readonly string[]) : typeof value === 'string' ? [value] : [];
  const lately = latelyUsed(me.id, column.id);
  const items = (lexicon?.inOrder() ?? [])
    .filter(({ term }) => !term.retired || picked.includes(term.id))
    .map(({ term, depth }): PickItem => ({ id: term.id, name: term.name, leads: term.otherNames, depth }));
  const first = lately
    .flatMap((id) => items.find((item) => item.id === id) ?? [])
    .map((item) => ({ ...item, depth: 0 }));
  const several = column.type === 'choices';

  function take(id: string) {
    rememberUse(me.id, column.id, [id]);
    if (!several) return onSet(id);
    const next = picked.includes(id) ? picked.filter((each) => each !== id) : [...picked, id];
    onSet(lexicon ? asChoices(next, lexicon) : next);
  }

  return (
    <Pick
      label={column.name}
      shown={<Shown words={inWords(column, value, namesFrom(lexicons, names))} instead={instead} />}
      items={[...first, ...items.filter((item) => !lately.includes(item.id))]}
      picked={picked}
      several={several}
      onPick={take}
      onClear={picked.length > 0 || instead === 'several' ? () => onSet(null) : undefined}
      onCreate={
        column.open && column.listId !== null
          ? (name) =>
              addTerm.mutate(
                { listId: column.listId ?? '', name, parentId: null },
                { onSuccess: ({ id }) => onSet(several ? [...picked, id] : id) },
              )
          : undefined
      }
      nothing={`That is not on the list of ${column.name}.`}
    />
  );
}

function ReferringField({ column, value, instead, lexicons, names, onSet }: Props) {
  const kind = column.type === 'person' ? 'person' : column.type === 'dossier' ? 'dossier' : 'document';
  const { asking } = useChoices(kind);
  return (
    <Pick
      label={column.name}
      shown={<Shown words={inWords(column, value, namesFrom(lexicons, names))} instead={instead} />}
      {...asking}
      picked={typeof value === 'string' ? [value] : []}
      onPick={onSet}
      onClear={value !== null || instead === 'several' ? () => onSet(null) : undefined}
    />
  );
}

function YesNoField({ column, value, instead, onSet }: Props) {
  const items = [
    { id: 'yes', name: 'Yes' },
    { id: 'no', name: 'No' },
  ];
  return (
    <Pick
      label={column.name}
      shown={<Shown words={value === true ? 'Yes' : value === false ? 'No' : ''} instead={instead} />}
      items={items}
      picked={value === null ? [] : [value === true ? 'yes' : 'no']}
      onPick={(id) => onSet(id === 'yes')}
      onClear={value !== null || instead === 'several' ? () => onSet(null) : undefined}
    />
  );
}

const noOne = () => null;

function TypedField({ column, value, instead, lexicons, names, onSet }: Props) {
  const all = namesFrom(lexicons, names);
  const before = asText(column, value, all);
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string>();

  function keep() {
    if (text === null || text === before) return setText(null);
    const read = readText(column, text, { terms: all.terms, person: noOne, dossier: noOne, document: noOne });
    if (!read.ok) return setWrong(read.issue.says);
    setWrong(undefined);
    onSet(read.value.kind === 'value' ? read.value.value : null);
  }
  const shared = {
    'aria-label': column.name,
    'aria-invalid': wrong !== undefined || undefined,
    value: text ?? (column.type === 'longText' || text !== null ? before : inWords(column, value, all)),
    placeholder: instead ?? (column.type === 'date' ? '14 Jul 2026' : ''),
    onFocus: () => setText((now) => now ?? before),
    onBlur: keep,
    className:
      'w-full rounded-sm border border-transparent bg-transparent px-1.5 py-0.5 placeholder:text-soft hover:border-edge focus:border-brine-ink focus:bg-sheet',
  };
  return (
    <>
      {column.type === 'longText' ? (
        <textarea
          {...shared}
          rows={Math.min(8, (text ?? before).split('\n').length + 1)}
          onChange={(event) => setText(event.target.value)}
        />
      ) : (
        <input
          {...shared}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Enter') keep();
            if (event.key === 'Escape') {
              setWrong(undefined);
              setText(null);
              event.currentTarget.blur();
            }
          }}
        />
      )}
      {wrong !== undefined && (
        <span role="alert" className="block text-sm text-ember-ink">
          {wrong}
        </span>
      )}
    </>
  );
}
