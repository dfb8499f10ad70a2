'use client';

import { createContext, useContext } from 'react';

/** How whatever is around the pages moves through them, and is told where they are. */
export interface Steer {
  /** Where to go: each object once. Null: nowhere yet. */
  readonly to: { readonly page: number } | null;
  /** Told whenever another page comes into sight. */
  readonly onPage: (page: number) => void;
  /** The pages at which something begins that one jumps to in full screen. */
  readonly stops: readonly number[];
  /** Told once a page is drawn. */
  readonly onDrawn: () => void;
}

/** Steered by nobody. */
export const unsteered: Steer = { to: null, onPage: () => undefined, stops: [], onDrawn: () => undefined };

/** Given around pages that are steered from outside. */
export const SteerContext = createContext<Steer>(unsteered);

/** Who steers these pages; without anybody, only the pages themselves. */
export const useSteer = (): Steer => useContext(SteerContext);
