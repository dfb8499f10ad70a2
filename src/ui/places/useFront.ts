'use client';

import { useQueryStates } from 'nuqs';
import type { PlaceKind } from '@/core/tree/placeKind';
import type { SavedView } from '@/core/views/saved';
import { useAsk } from '../server/useCall';
import { addressed, plainName } from '../views/useViewState';
import type { FrontTab } from '../views/ViewTabs';

/** The page of its own that a place has before its views: a series its rack, a dossier what concerns it at a glance. */
const fronts: Partial<Record<PlaceKind, { readonly name: string; readonly label: string; readonly opens: boolean }>> = {
  series: { name: 'rack', label: 'Rack', opens: true },
  dossier: { name: 'glance', label: 'At a glance', opens: false },
};

interface Front extends FrontTab {
  readonly views: readonly SavedView[];
  readonly openView: (viewId: string | null) => void;
}

/** Whether a place's own page is open: where the address names it, or says nothing and no saved view opens by itself. */
export function useFront(placeId: string, kind: PlaceKind | null): Front | null {
  const front = kind === null ? undefined : fronts[kind];
  const at = useAsk('views.at', { placeId }, { enabled: front !== undefined });
  const [state, setState] = useQueryStates(addressed);
  if (!front) return null;
  const untouched = Object.values(state).every((value) => value === null || value === '');
  const opensId = at.data?.opensId ?? null;
  return {
    label: front.label,
    opens: front.opens,
    isOpen: state.view === front.name || (front.opens && untouched && opensId === null),
    onOpen: () => void setState({ ...nothing, view: front.name }),
    views: at.data?.views ?? [],
    openView: (viewId) => void setState({ ...nothing, view: viewId ?? plainName }),
  };
}

const nothing = Object.fromEntries(Object.keys(addressed).map((key) => [key, null])) as Record<
  keyof typeof addressed,
  null
>;
