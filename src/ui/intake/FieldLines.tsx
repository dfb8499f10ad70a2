'use client';

import { useId } from 'react';
import type { ArrivalField } from '@/core/intake/contract';
import { percentSure } from '@/core/stated/sureness';
import type { Fields } from './useFields';

/** What is less sure than this asks to be looked at. */
const sureEnough = 0.9;

/** The values of a part of an arrival as they would be filed, each with its reason. */
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
  return fields
    .fieldsOf(attachment)
    .map((field) => (
      <FieldLine
        key={field.columnId}
        field={field}
        part={part}
        text={fields.textOf(attachment, field)}
        isRefused={refused.has(field.columnId)}
        onEnter={() => fields.enter(attachment, field.columnId)}
        onText={(text) => fields.type(attachment, field.columnId, text)}
      />
    ));
}

/** One value with its reason. */
export function FieldLine({
  field: { name, text: proposed, choices, why, sure, required },
  part,
  text,
  isRefused,
  nothing = 'None',
  onEnter,
  onText,
}: {
  readonly field: ArrivalField;
  readonly part: string;
  readonly text: string;
  readonly isRefused: boolean;
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
