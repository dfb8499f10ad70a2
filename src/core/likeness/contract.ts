import { z } from 'zod';
import type { Stamp } from '../files/fileKind';
import { ask } from '../operation/operation';

/** A paper whose text is that of another one, or much like it. */
export interface AlikePaper {
  readonly documentId: string;
  readonly title: string;
  readonly stamp: Stamp;
  readonly placeId: string;
  readonly placeName: string;
  /** ISO 8601. */
  readonly filedAt: string;
  /** 1 for the same text, else an estimate from 0 to 1. */
  readonly likeness: number;
}

/** Questions about papers that are like each other. */
export const likenessContract = {
  /** Papers that the caller may see whose text is the same as a paper's or much like it: the likest first, at most eight. */
  'paper.alike': ask<{ isRead: boolean; papers: readonly AlikePaper[] }>()(z.object({ documentId: z.uuid() })),
};
