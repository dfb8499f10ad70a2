import { z } from 'zod';
import { acrossQuestion } from '../across/contract';
import { act, ask } from '../operation/operation';

const id = z.uuid();

/** How the folders of an archive are made: as in the library, by filing year, by kind of file, or none at all. */
export const exportFolders = ['place', 'year', 'kind', 'none'] as const;
/** The same, or by the values of a column. */
const folders = z.union([z.enum(exportFolders), id]);
export type ExportFolders = z.output<typeof folders>;

/** The states of an export, in their order. */
export const exportStates = ['waiting', 'making', 'done', 'failed', 'cancelled'] as const;
export type ExportState = (typeof exportStates)[number];

/** Why an export failed. */
export const exportFaults = ['damaged', 'disk', 'access', 'nothing', 'gaveUp'] as const;
export type ExportFault = (typeof exportFaults)[number];

/** What became of an export that failed, and what to do. */
export const exportFaultWords: Readonly<Record<ExportFault, string>> = {
  damaged: 'The content of one of the papers is damaged. A keeper finds it under Health.',
  disk: 'There was no room on the disk. Ask whoever runs the machine, or export fewer papers.',
  access: 'Some of the papers were closed to you meanwhile. Export those that are open again.',
  nothing: 'No copies of these papers may be taken.',
  gaveUp: 'It did not come to an end, three times. The log says why.',
};

/** An export that the caller asked for. Times are ISO 8601. */
export interface Export {
  readonly id: string;
  readonly name: string;
  readonly state: ExportState;
  readonly fault: ExportFault | null;
  readonly askedAt: string;
  /** How many papers it has, and how many were left out because no copies may be taken; null before it is begun. */
  readonly papers: number | null;
  readonly leftOut: number | null;
  /** How many bytes have been written, of about so many. */
  readonly bytes: number;
  readonly ofBytes: number | null;
  /** How long it still takes at the pace so far; null where that cannot be told yet. */
  readonly secondsLeft: number | null;
  /** Until when it can be fetched; null before it is done. */
  readonly expiresAt: string | null;
}

/** So many papers are exported by naming them; more by naming places. */
export const mostNamed = 5000;

/** What is exported. */
const what = z.union([
  z.strictObject({ papers: z.array(id).min(1).max(mostNamed, 'At most 5,000 papers are named at once.') }),
  /** All that lies in these places or below them. */
  z.strictObject({ places: z.array(id).min(1).max(1000) }),
  /** What ticks in a tree choose. */
  z.strictObject({ across: acrossQuestion }),
]);
export type ExportWhat = z.output<typeof what>;

/** Questions and acts about exports: archives that the library makes, and keeps for whoever asked. */
export const exportsContract = {
  'export.ask': act<{ exportId: string }>()(
    z.object({
      what,
      folders: folders.default('place'),
    }),
  ),
  'exports.mine': ask<readonly Export[]>()(z.object({})),
  /** Cancels one that is not done, or removes it. */
  'export.remove': act()(z.object({ exportId: id })),
};
