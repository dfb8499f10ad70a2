'use client';

import { createContext, use, type ReactNode } from 'react';
import type { LibrarySettings } from '@/core/library/model';
import type { Me } from '@/core/people/model';
import type { Density, Scheme } from './density';

/** What every screen may need to know: who is here, of which library, and how they like it. */
export interface Surroundings {
  readonly me: Me;
  /** The name of who looks at the library as `me` would; null where it is `me`. */
  readonly seenBy: string | null;
  readonly library: LibrarySettings;
  readonly timeZone: string;
  /** The moment at which the page was made, ISO 8601. */
  readonly now: string;
  readonly density: Density;
  /** In pixels. */
  readonly rowHeight: number;
  readonly scheme: Scheme;
}

const SurroundingsContext = createContext<Surroundings | null>(null);

/** Provides who is signed in and how the library is set. */
export const SurroundingsProvider = ({
  value,
  children,
}: {
  readonly value: Surroundings;
  readonly children: ReactNode;
}) => <SurroundingsContext value={value}>{children}</SurroundingsContext>;

/** Who is signed in and how the library is set; throws outside of its provider. */
export function useSurroundings(): Surroundings {
  const around = use(SurroundingsContext);
  if (!around) throw new Error('There is no library around this component');
  return around;
}
