'use client';

import { useId, useState } from 'react';
import type { ArrivalField } from '@/core/intake/contract';
import { percentSure } from '@/core/stated/sureness';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import type { Fields } from './useFields';

/** What is less sure than this asks to be looked at. */
const sureEnough = 0.9;

/** The values of a part of an arrival as they would be filed, each with its reason; the rest of the columns once they are wanted. */
export function FieldLines({
  attachment,
  part,
  fields,
  refused,
}: {
  readonly attachment: number | null;
  /** The name of the part. */
  readonly part: string;
  readonly fields: Fields;
  /** The ids of columns whose values were not taken. */
  readonly refused: ReadonlySet<string>;
}) {
  const [hasAll, setHasAll] = useState(false);
  const all = fields.fieldsOf(attachment);
  const shown = all.filter((field) => hasAll || !field.aside || fields.textOf(attachment, field) !== '');
  const firstAside = shown.find(({ aside }) => aside);
  const more = counted(all.length - shown.length, 'more column');
  return (
    <>
      {shown.map((field) => (
        <FieldLine
          key={field.columnId}
          field={field}
          part={part}
          text={fields.textOf(attachment, field)}
          isRefused={refused.has(field.columnId)}
          // Where the button was that showed it, one goes on.
          autoFocus={hasAll && field === firstAside}
          onEnter={() => fields.enter(attachment, field.columnId)}
          onText={(text) => fields.type(attachment, field.columnId, text)}
        />
      ))}
      {shown.length < all.length && (
        <Button
          look="quiet"
          className="!px-0 !text-sm"
          aria-label={`${more} of ${part}`}
          onClick={() => setHasAll(true)}
        >
          {more}…
        </Button>
      )}
    </>
  );
}

/** One value with its reason. */
export function FieldLine({
  field: { name, text: proposed, choices, why, sure, required },
  part,
  text,
  isRefused,
  autoFocus = false,
  nothing = 'None',
  onEnter,
  onText,
}: {
  readonly field: ArrivalField;
  readonly part: string;
  readonly text: string;
  readonly isRefused: boolean;
  readonly autoFocus?: boolean;
  /** What a list offers for no value. */
  readonly nothing?: string;
  readonly onEnter: () => void;
  readonly onText: (text: string) => void;
}) {
  const reason = useId();
  const isAsProposed = text === proposed && why !== null;
  const shared = {
    'aria-label': `${name} of ${part}`,
    'aria-describedby': isAsProposed ? reason : undefined,
    'aria-invalid': isRefused || undefined,
    value: text,
    autoFocus,
    onFocus: onEnter,
    className:
      'h-[28px] min-w-0 flex-1 rounded-sm border border-edge bg-sheet px-2 aria-invalid:border-ember aria-invalid:bg-ember-wash',
  };
  return (
    <div className="mt-1">
      <div className="flex items-center gap-2">
        <span className="w-[104px] shrink-0 truncate text-sm text-soft" title={name}>
          {name}
          {required && ' *'}
        </span>
        {choices === null ? (
          <input {...shared} autoComplete="off" onChange={({ target }) => onText(target.value)} />
        ) : (
          <select {...shared} onChange={({ target }) => onText(target.value)}>
            <option value="">{nothing}</option>
            {choices.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        )}
      </div>
      {isAsProposed && (
        <p id={reason} className="pl-[112px] text-sm text-soft">
          {why}
          {sure !== null && (
            <span className={sure < sureEnough ? 'text-ember-ink' : ''}>
              {' '}
              {`${percentSure(sure)}\u00a0%\u00a0sure.`}
            </span>
          )}
        </p>
      )}
    </div>
  );
}
