'use client';

import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Column } from '@/core/columns/model';
import {
  blockHows,
  conditionsIn,
  isBlock,
  type Block,
  type Condition,
  type Conditions,
  type Part,
} from '@/core/views/conditions';
import { builtIns } from '@/core/views/builtIns';
import type { NamedCounts } from '@/core/views/contract';
import { propertyName, senseOf } from '@/core/views/property';
import { askedInWords, type ConditionWords } from '@/core/views/words';
import { Pick, type PickItem } from '../kit/pick';
import { ConditionEditor } from './ConditionEditor';

interface Props {
  /** Columns that conditions can speak of here. */
  readonly columns: readonly Column[];
  readonly counts: Readonly<Record<string, NamedCounts>>;
  readonly words: ConditionWords;
  readonly conditions: Conditions;
  readonly onConditions: (next: Conditions) => void;
  /** Whether titles can be asked here; not where they have a field of their own in front of the bar. */
  readonly withTitle?: boolean;
}

const howWords: Record<Block['how'], string> = { all: 'All of', any: 'Any of', none: 'None of' };
const newBlock = 'block';

/** Which papers are shown: each condition a two-part chip that opens on its values with counts; blocks hold several. */
export const ConditionsBar = (props: Props) => <Parts {...props} depth={0} />;

function Parts(props: Props & { readonly depth: number }) {
  const { columns, conditions: parts, onConditions, depth, withTitle = false } = props;
  const [opened, setOpened] = useState<number | null>(null);
  const spoken = new Set(conditionsIn(parts).map((each) => each.of));
  const free: PickItem[] = [
    ...[...columns.map((column) => column.id), ...builtIns.filter((of) => withTitle || of !== 'title')]
      .filter((of) => depth > 0 || !spoken.has(of))
      .map((of) => ({ id: of, name: propertyName(of, columns) })),
    ...(depth < 2 ? [{ id: newBlock, name: 'Several together: any or none of them' }] : []),
  ];
  const put = (index: number, part: Part) => onConditions(parts.map((each, at) => (at === index ? part : each)));
  const remove = (index: number) => onConditions(parts.filter((_each, at) => at !== index));
  function add(of: string) {
    const part: Part =
      of === newBlock
        ? { how: 'any', parts: [] }
        : of === 'find'
          ? { of, find: '', among: 'everything' }
          : senseOf(of, columns) === 'number'
            ? { of, from: null, to: null }
            : ({ of, anyOf: [] } as Condition);
    onConditions([...parts, part]);
    if (!isBlock(part)) setOpened(parts.length);
  }
  return (
    <>
      {parts.map((part, index) =>
        isBlock(part) ? (
          <span
            key={index}
            role="group"
            aria-label={howWords[part.how]}
            className="flex min-h-[28px] max-w-full flex-wrap items-center gap-1.5 rounded-sm border border-dashed border-brine-ink px-1 py-px"
          >
            <select
              aria-label="How these conditions are taken together"
              value={part.how}
              onChange={(event) => {
                const how = blockHows.find((each) => each === event.target.value);
                if (how) put(index, { ...part, how });
              }}
              className="h-[24px] rounded-sm bg-sheet text-sm text-brine-ink"
            >
              {blockHows.map((how) => (
                <option key={how} value={how}>
                  {howWords[how]}
                </option>
              ))}
            </select>
            <Parts
              {...props}
              depth={depth + 1}
              conditions={part.parts}
              onConditions={(next) => put(index, { ...part, parts: next })}
            />
            <button
              type="button"
              aria-label={`Remove: ${howWords[part.how].toLowerCase()} these`}
              onClick={() => remove(index)}
              className="px-1.5 text-soft hover:text-ink"
            >
              ×
            </button>
          </span>
        ) : (
          <Chip
            key={index}
            {...props}
            condition={part}
            open={opened === index}
            onOpen={(open) => setOpened(open ? index : null)}
            onChange={(next) => put(index, next)}
            onRemove={() => {
              setOpened(null);
              remove(index);
            }}
          />
        ),
      )}
      {free.length > 0 && (
        <Pick
          label={depth === 0 ? 'Add a condition' : 'Add a condition to these'}
          shown={depth === 0 ? '+ Condition' : '+'}
          items={free}
          picked={[]}
          onPick={add}
          letsGo
          className="h-[28px] shrink-0 rounded-sm border border-dashed border-edge px-2 text-soft hover:text-ink"
        />
      )}
    </>
  );
}

function Chip({
  columns,
  counts,
  words,
  condition,
  open,
  onOpen,
  onChange,
  onRemove,
}: Props & {
  readonly condition: Condition;
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  readonly onChange: (next: Condition) => void;
  readonly onRemove: () => void;
}) {
  const name = propertyName(condition.of, columns);
  const sense = senseOf(condition.of, columns);
  const asked = askedInWords(condition, words);
  return (
    <span className="flex h-[28px] max-w-full shrink-0 items-stretch rounded-sm border border-brine-ink">
      <Popover.Root open={open} onOpenChange={onOpen}>
        <Popover.Trigger
          aria-label={`${name}: ${asked}. Choose values`}
          className="flex min-w-0 items-stretch"
          disabled={sense === null}
        >
          <span className="flex items-center bg-brine-wash px-2 text-sm whitespace-nowrap text-brine-ink">{name}</span>
          <span className={`flex max-w-64 min-w-0 items-center px-2 text-sm ${asked === 'any' ? 'text-soft' : ''}`}>
            <span className="truncate">{asked}</span>
          </span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={3}
            aria-label={`${name}: choose values`}
            className="z-[60] max-h-[min(560px,70vh)] w-[304px] overflow-y-auto rounded-sm border border-line bg-sheet text-ink shadow-lg"
            onKeyDown={(event) => event.key !== 'Escape' && event.stopPropagation()}
            // The list of properties that opened it closes just then, and must not take it along.
            onFocusOutside={(event) => event.preventDefault()}
          >
            {sense !== null && (
              <ConditionEditor
                condition={condition}
                sense={sense}
                counts={counts[condition.of]}
                years={words.years}
                onChange={onChange}
                onDone={() => onOpen(false)}
              />
            )}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <button
        type="button"
        aria-label={`Remove the condition on ${name}`}
        onClick={onRemove}
        className="border-l border-brine-ink px-2 text-soft hover:text-ink"
      >
        ×
      </button>
    </span>
  );
}
