'use client';

import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { FieldLine } from './FieldLines';

/** What a filing rule fills in at its place, column by column; what is left empty it does not say. */
export function RuleValues({
  placeId,
  values,
  wrong,
  onValues,
}: {
  readonly placeId: string;
  readonly values: Readonly<Record<string, string>>;
  /** What is wrong with a column, in words. */
  readonly wrong: (columnId: string) => string | undefined;
  readonly onValues: (values: Record<string, string>) => void;
}) {
  const { data, error } = useAsk('filing.fields', { placeId });
  if (error) return <p role="alert">{saysOf(error)}</p>;
  if (!data || data.length === 0) return null;
  const set = (columnId: string, text: string) => {
    const others = Object.entries(values).filter(([id]) => id !== columnId);
    onValues(Object.fromEntries(text === '' ? others : [...others, [columnId, text]]));
  };
  return (
    <fieldset className="min-w-0">
      <legend className="font-condensed">and is filled in with</legend>
      {data.map((field) => (
        <div key={field.columnId}>
          <FieldLine
            field={{ ...field, required: false }}
            part="what the rule files"
            text={values[field.columnId] ?? ''}
            isRefused={wrong(field.columnId) !== undefined}
            nothing="Left open"
            onEnter={() => undefined}
            onText={(text) => set(field.columnId, text)}
          />
          {wrong(field.columnId) !== undefined && (
            <p role="alert" className="pl-[112px] text-sm text-ember-ink">
              {wrong(field.columnId)}
            </p>
          )}
        </div>
      ))}
    </fieldset>
  );
}
