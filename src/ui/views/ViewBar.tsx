'use client';

import type { ReactNode } from 'react';
import type { Column } from '@/core/columns/model';
import { conditionsIn } from '@/core/views/conditions';
import type { NamedCounts } from '@/core/views/contract';
import type { ViewSpec } from '@/core/views/spec';
import { conditionsInWords, type ConditionWords } from '@/core/views/words';
import { Button } from '../kit/button';
import { ConditionsBar } from './ConditionsBar';
import type { ViewState } from './useViewState';
import type { ViewDialogKind } from './ViewToolbar';
import { worthSaving } from './viewWords';

interface Props {
  readonly viewState: ViewState;
  readonly plainView: ViewSpec;
  /** The whole library, in which no paper lies directly. */
  readonly everywhere: boolean;
  readonly columns: readonly Column[];
  readonly counts: Readonly<Record<string, NamedCounts>>;
  readonly words: ConditionWords;
  /** How much is shown, in words; the long form for who rests the pointer on it. */
  readonly counted: { readonly short: string; readonly long: string };
  readonly notices: ReactNode;
  /** Whether there is no field that filters titles. */
  readonly withoutFilter: boolean;
  readonly onDialog: (dialog: ViewDialogKind) => void;
}

/** What narrows the view: words in titles, how far down, the conditions; and how much is left. */
export function ViewBar({
  viewState,
  plainView,
  everywhere,
  columns,
  counts,
  words,
  counted,
  notices,
  withoutFilter,
  onDialog,
}: Props) {
  const { saved, spec, setSpec, setState } = viewState;
  const { filter } = viewState.state;
  const narrowed = filter.trim() !== '' || spec.conditions.length > 0;
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b border-line bg-sheet px-4 py-1.5">
      {!withoutFilter && (
        <input
          type="search"
          aria-label="Filter"
          placeholder="Filter"
          value={filter}
          onChange={(event) =>
            void setState({ filter: event.target.value === '' ? null : event.target.value }, { throttleMs: 150 })
          }
          className="h-[28px] w-40 rounded-sm border border-edge bg-sheet px-2 placeholder:text-soft"
        />
      )}
      {!everywhere && !withoutFilter && (
        <button
          type="button"
          aria-pressed={spec.below}
          title="Papers of all places below, or only those that lie directly here"
          onClick={() => setSpec({ below: !spec.below })}
          className={`h-[28px] shrink-0 rounded-sm border px-2 text-sm ${spec.below ? 'border-brine-ink bg-brine-wash text-brine-ink' : 'border-dashed border-edge text-soft hover:text-ink'}`}
        >
          {spec.below ? 'And all below' : 'Only here'}
        </button>
      )}
      <ConditionsBar
        columns={columns}
        counts={counts}
        words={words}
        conditions={spec.conditions}
        onConditions={(conditions) => setSpec({ conditions })}
      />
      {narrowed && !withoutFilter && (
        <Button
          look="quiet"
          className="px-1!"
          onClick={() => {
            setSpec({ conditions: [] });
            void setState({ filter: null });
          }}
        >
          Show all
        </Button>
      )}
      {withoutFilter && (
        <Button look="quiet" className="px-1! text-sm!" onClick={() => onDialog('save')}>
          Save as a view
        </Button>
      )}
      {!withoutFilter && viewState.changed && (saved !== null || worthSaving(spec, plainView)) && (
        <span className="flex shrink-0 items-center gap-0.5 text-sm text-soft">
          <span role="status">Changed, not saved</span>
          {saved?.mayChange && (
            <Button look="quiet" className="px-1! text-sm!" onClick={() => onDialog('change')}>
              Save
            </Button>
          )}
          <Button look="quiet" className="px-1! text-sm!" onClick={() => onDialog('save')}>
            Save as new
          </Button>
          <Button look="quiet" className="px-1! text-sm!" onClick={() => viewState.openView(saved?.id ?? null)}>
            Undo
          </Button>
        </span>
      )}
      <span className="ml-auto" />
      {notices}
      <span role="status" className="figures text-sm text-soft" title={counted.long}>
        {counted.short}
      </span>
      {conditionsIn(spec.conditions).length > 1 && (
        <p className="basis-full text-sm text-soft">
          Shown: papers {spec.below ? 'here and below' : 'here'} with {conditionsInWords(spec.conditions, words)}.
        </p>
      )}
    </div>
  );
}
