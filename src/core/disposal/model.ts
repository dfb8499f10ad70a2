import type { Stamp } from '../files/fileKind';

/** How the disposal tray is listed. */
export const trayOrders = ['newest', 'oldest', 'title', 'place', 'person'] as const;
export type TrayOrder = (typeof trayOrders)[number];

/** A paper waiting in the disposal tray. Times are ISO 8601. */
export interface DisposedPaper {
  readonly id: string;
  readonly title: string;
  readonly stamp: Stamp;
  readonly sizeBytes: number;
  /** The place that it goes back to, and its name. */
  readonly homeId: string;
  readonly homeName: string;
  readonly disposedAt: string;
  readonly disposedBy: string;
  /** When it is destroyed; null: when a person destroys it. */
  readonly dueAt: string | null;
  /** Why it can be neither put back nor destroyed where it is, or, under a hold, not destroyed; null where it can. */
  readonly still: 'closedPlace' | 'lockedPlace' | 'held' | null;
  /** Whether the caller may destroy it, and may put it elsewhere than where it was. */
  readonly mayDestroy: boolean;
}

/** What the disposal tray holds of what was asked for. */
export interface Tray {
  readonly papers: readonly DisposedPaper[];
  /** How many there are of what was asked for. */
  readonly total: number;
  /** How many days the library keeps them; null: until a person destroys them. */
  readonly trayDays: number | null;
}
