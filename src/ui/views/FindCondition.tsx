'use client';

import { useState } from 'react';
import { amongs, type Among } from '@/core/search/among';
import { composed, partsOf } from '@/core/search/compose';
import { isFind } from '@/core/views/conditions';
import { Button } from '../kit/button';
import { field, type ConditionProps } from './Asking';

/** Where words are looked for, as a choice. */
export const amongNames: Readonly<Record<Among, string>> = {
  everything: 'Everywhere in papers',
  titles: 'In titles and file names',
  inside: 'Inside papers',
  values: 'In values, labels and remarks',
  mail: 'In mails',
};

/** Looking for words by filling in fields: nothing has to be known of signs. */
export function FindCondition({
  condition,
  onChange,
  onDone,
}: Pick<ConditionProps, 'condition' | 'onChange' | 'onDone'>) {
  const asked = isFind(condition) ? condition : null;
  const [parts, setParts] = useState(partsOf(asked?.find ?? ''));
  const [among, setAmong] = useState<Among>(asked?.among ?? 'everything');
  const fields = [
    ['words', 'All of these words, in any order'],
    ['exactly', 'These, one after the other'],
    ['without', 'None of these words'],
  ] as const;
  return (
    <form
      className="flex flex-col gap-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        onChange({ of: 'find', find: composed(parts), among });
        onDone();
      }}
    >
      {fields.map(([part, label], at) => (
        <label key={part} className="flex flex-col gap-0.5 text-sm text-soft">
          {label}
          <input
            autoFocus={at === 0}
            value={parts[part]}
            maxLength={600}
            onChange={(event) => setParts({ ...parts, [part]: event.target.value })}
            className={`${field} text-ink`}
          />
        </label>
      ))}
      <label className="flex flex-col gap-0.5 text-sm text-soft">
        Where
        <select
          value={among}
          onChange={(event) => setAmong(amongs.find((each) => each === event.target.value) ?? 'everything')}
          className={`${field} text-ink`}
        >
          {amongs.map((each) => (
            <option key={each} value={each}>
              {amongNames[each]}
            </option>
          ))}
        </select>
      </label>
      <p className="text-sm text-soft">
        In one line the same reads: words, “words in a row” in quotes, a minus before a word that is not to be there,
        and a star after the beginning of one.
      </p>
      <Button type="submit" look="main" className="self-start">
        Find
      </Button>
    </form>
  );
}
