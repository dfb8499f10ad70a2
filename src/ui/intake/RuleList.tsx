'use client';

import { useState } from 'react';
import { conditionsInWords, toKeep } from '@/core/intake/filingRule';
import type { FilingRuleRow } from '@/core/intake/contract';
import { Button } from '../kit/button';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { RuleDialog, type RuleDraft } from './RuleDialog';

const newRule: RuleDraft = {
  ...{ id: null, revision: 0, name: '', on: true, title: '', filesFrom: null, placeId: null, path: null },
  ...{ values: {}, labelIds: [], tell: [], people: [] },
  conditions: [{ field: 'from', text: '' }],
};

/** The filing rules of the library, in the order in which they are looked at. */
export function RuleList() {
  const { data, error } = useAsk('filing.rules', {});
  const [open, setOpen] = useState<RuleDraft | null>(null);
  return (
    <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-sm:px-3">
      <div className="max-w-[860px]">
        {error && <p role="alert">{saysOf(error)}</p>}
        <div className="mb-3 flex items-center gap-4">
          <p className="flex-1 text-soft">
            The first rule that an arrival looks like says where it is proposed to go. A person still agrees, unless the
            rule files by itself.
          </p>
          <Button look="main" onClick={() => setOpen(newRule)}>
            New rule…
          </Button>
        </div>
        {data?.length === 0 && (
          <p>
            No rules yet. Whoever files much from one sender makes one, and sees at once how often it would have been
            right.
          </p>
        )}
        <ol className="rounded-sm border border-line bg-sheet empty:hidden">
          {data?.map((rule, at) => (
            <RuleLine
              key={rule.id}
              rule={rule}
              isFirst={at === 0}
              nextId={data[at + 1]?.id ?? null}
              onOpen={() => setOpen(rule)}
            />
          ))}
        </ol>
      </div>
      {open && <RuleDialog key={open.id} draft={open} onClose={() => setOpen(null)} />}
    </div>
  );
}

function RuleLine({
  rule,
  isFirst,
  nextId,
  onOpen,
}: {
  readonly rule: FilingRuleRow;
  readonly isFirst: boolean;
  /** The rule that is looked at after it; null: it is the last. */
  readonly nextId: string | null;
  readonly onOpen: () => void;
}) {
  const { id, name, on, conditions, filesFrom, placeId, path } = rule;
  const keep = useAct('filing.keepRule');
  const move = useAct('filing.moveRule');
  const remove = useAct('filing.removeRule');
  const removed = () => {
    const words = `The rule “${name}” is removed`;
    if (placeId === null) return say.done(words);
    say.undoable(words, () => keep.mutate({ ...toKeep(rule, placeId), id: null, beforeId: nextId }));
  };
  return (
    <li className="flex items-start gap-3 border-b border-line px-3 py-2 last:border-0">
      <span className="min-w-0 flex-1">
        <button type="button" onClick={onOpen} className="min-h-[24px] text-left font-medium hover:underline">
          {name}
        </button>
        {!on && <span className="text-soft"> (off)</span>}
        <span className="block text-sm text-soft">{conditionsInWords(conditions)}</span>
        {filesFrom !== null && (
          <span className="block text-sm text-brine-ink">It files by itself what is at least {filesFrom} % sure.</span>
        )}
        <span className={path === null ? 'block text-sm text-ember-ink' : 'block text-sm'}>
          {path === null ? 'Its place was removed: it does nothing.' : path.join(' / ')}
        </span>
      </span>
      <Menu
        label="⋯"
        name={`What can be done with ${name}`}
        acts={[
          { label: 'Change…', act: onOpen },
          ...(isFirst ? [] : [{ label: 'Look at it earlier', act: () => move.mutate({ id, by: 'up' }) }]),
          ...(nextId === null ? [] : [{ label: 'Look at it later', act: () => move.mutate({ id, by: 'down' }) }]),
          {
            label: 'Remove',
            apart: true,
            act: () => remove.mutate({ id }, { onSuccess: removed }),
          },
        ]}
      />
    </li>
  );
}
