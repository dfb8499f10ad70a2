import { z } from 'zod';
import { act, ask } from '../operation/operation';
import type { Stamp } from '../files/fileKind';

/** A paper in hand. */
export interface PaperInHand {
  readonly id: string;
  readonly title: string;
  readonly stamp: Stamp;
  readonly sizeBytes: number;
  readonly pageCount: number | null;
  /** The place where it lies for the person, and its name. */
  readonly homeId: string;
  readonly homeName: string;
}

/** So many papers are in hand at most. */
export const mostInHand = 5000;

const some = z.array(z.uuid()).min(1).max(mostInHand, 'At most 5,000 papers are picked up at once.');

/** What a person has in hand: theirs alone, on all their devices, until they put it down. */
export const handContract = {
  /** The papers in hand that are still open to the caller, in the order in which they were picked up. */
  'hand.papers': ask<readonly PaperInHand[]>()(z.object({})),
  'hand.pickUp': act()(z.object({ documentIds: some })),
  /** `documentIds`: null puts all of them down. */
  'hand.putDown': act()(z.object({ documentIds: some.nullable() })),
};
