/** The details of an entry as they are stored: flat, so that its canonical form is simple. */
export type JournalDetail = Readonly<Record<string, string | number | boolean | null>>;

/** The journal's head at some time, written outside the database. */
export interface JournalAnchor {
  readonly at: string;
  readonly entryId: number;
  readonly hash: string;
}

/** The state of the anchors, and the result of checking them; null if they were not checked. */
export interface JournalHeld {
  readonly anchors: number;
  readonly last: JournalAnchor | null;
  /** Whether an anchor file is configured. */
  readonly isKept: boolean;
  readonly checked: {
    readonly entries: number;
    /** The first entry that differs. */
    readonly brokenAt: number | null;
    readonly how: 'whole' | 'changed' | 'cutOff';
  } | null;
}

/** An entry in words, as the caller may read it. */
export interface JournalLine {
  readonly id: number;
  readonly at: string;
  readonly who: string;
  readonly words: string;
  /** What this entry can undo: values or access; null for nothing. */
  readonly undoes: 'values' | 'access' | null;
}
