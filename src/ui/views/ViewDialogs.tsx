'use client';

import type { Column } from '@/core/columns/model';
import type { ViewsAt } from '@/core/views/contract';
import type { SavedView } from '@/core/views/saved';
import type { ViewSpec } from '@/core/views/spec';
import type { useLedgerColumns } from '../documents/useLedgerColumns';
import { HoldDialog } from '../holds/HoldDialog';
import { OutsideLinkDialog } from '../links/OutsideLinkDialog';
import { ArrangeDialog } from './ArrangeDialog';
import { ColumnsDialog } from './ColumnsDialog';
import { CrossTableDialog } from './CrossTableDialog';
import { ViewDialog } from './ViewDialog';
import type { ViewDialogKind } from './ViewToolbar';

/** The dialogs of a view: which one is open, and what they change. */
export function ViewDialogs({
  dialog,
  placeId,
  placeName,
  at,
  spec,
  setSpec,
  saved,
  filter,
  columns,
  shown,
  onSaved,
  onClose,
}: {
  readonly dialog: ViewDialogKind | null;
  readonly placeId: string;
  readonly placeName: string;
  /** The views of the place; undefined while they are loading. */
  readonly at: ViewsAt | undefined;
  readonly spec: ViewSpec;
  readonly setSpec: (part: Partial<ViewSpec>) => void;
  /** The open view; null for the plain ledger. */
  readonly saved: SavedView | null;
  readonly filter: string;
  readonly columns: readonly Column[];
  readonly shown: ReturnType<typeof useLedgerColumns>;
  readonly onSaved: (viewId: string | null) => void;
  readonly onClose: () => void;
}) {
  return (
    <>
      {dialog === 'link' && (
        <OutsideLinkDialog
          on={{
            kind: 'place',
            id: placeId,
            view: {
              name: saved?.name ?? placeName,
              below: spec.below,
              filter,
              conditions: spec.conditions,
              sorts: spec.sorts,
            },
          }}
          name={saved?.name ?? placeName}
          onClose={onClose}
        />
      )}
      {dialog === 'hold' && (
        <HoldDialog
          on={{
            placeIds: [],
            documentIds: [],
            views: [
              {
                placeId,
                below: spec.below,
                conditions: [
                  ...spec.conditions,
                  ...(filter.trim() === ''
                    ? []
                    : [{ of: 'title' as const, text: 'contains' as const, words: filter.trim() }]),
                ],
                name: saved?.name ?? placeName,
              },
            ],
          }}
          what={`what “${saved?.name ?? placeName}” shows`}
          onClose={onClose}
        />
      )}
      {dialog === 'arrange' && (
        <ArrangeDialog spec={spec} columns={columns} hasOrder={!spec.below} onSpec={setSpec} onClose={onClose} />
      )}
      {dialog === 'columns' && (
        <ColumnsDialog
          all={shown.all}
          shown={shown.shown}
          frozen={spec.frozen}
          onChoose={shown.choose}
          onFrozen={(frozen) => setSpec({ frozen })}
          onWidth={shown.setWidth}
          onClose={onClose}
        />
      )}
      {dialog === 'cross' && (
        <CrossTableDialog
          slice={{ placeId, below: spec.below, filter, conditions: spec.conditions }}
          columns={columns}
          first={spec.groupings}
          onPapers={(more) => {
            const others = spec.conditions.filter(
              (part) => !('of' in part && more.some((each) => each.of === part.of)),
            );
            setSpec({ conditions: [...others, ...more] });
            onClose();
          }}
          onClose={onClose}
        />
      )}
      {(dialog === 'save' || dialog === 'change') && at && (
        <ViewDialog
          placeId={placeId}
          placeName={placeName}
          at={at}
          spec={{ ...spec, columns: shown.wanted, widths: { ...spec.widths, ...shown.widths } }}
          view={dialog === 'change' ? saved : null}
          onClose={onClose}
          onSaved={onSaved}
        />
      )}
    </>
  );
}
