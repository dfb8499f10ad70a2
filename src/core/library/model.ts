import type { KindFamily } from '../files/fileKind';
import type { ScanLanguage } from '../reading/scanLanguages';
import type { YearNaming } from '../calendar/filingYear';

/** The library's settings, which every screen knows. */
export interface LibrarySettings extends YearNaming {
  /** The root place, where things for the whole library are defined. */
  readonly rootId: string;
  readonly name: string;
  /** An IANA time zone name. */
  readonly timeZone: string;
  readonly maxFileBytes: number;
  readonly families: readonly KindFamily[];
  /** The languages in which scans are read; at least one. */
  readonly scanLanguages: readonly ScanLanguage[];
  /** How many days papers wait in the disposal tray; null: until a person destroys them. */
  readonly trayDays: number | null;
  /** How many days an archive waits for whoever asked for it. */
  readonly exportDays: number;
  /** Every how many days the library backs itself up; null: not at all. */
  readonly backupEveryDays: number | null;
  readonly revision: number;
  /** The filing years, by first calendar year, in order. */
  readonly filingYears: readonly number[];
  /** Those of them that are closed. */
  readonly closedYears: readonly number[];
}

/** The largest file of a new library, in bytes. */
export const defaultMaxFileBytes = 250_000_000;
/** The days in the disposal tray of a new library. */
export const defaultTrayDays = 90;
/** The most a library may allow for one file: 4 GB. */
export const greatestMaxFileBytes = 4_000_000_000;

/** Whether a name is a time zone of the IANA database. */
export const isTimeZone = (name: string): boolean => {
  try {
    new Intl.DateTimeFormat('en-GB', { timeZone: name });
    return true;
  } catch {
    return false;
  }
};
