import { z } from 'zod';
import { ask } from '../operation/operation';
import type { Stamp } from '../files/fileKind';
import type { PlaceKind } from '../tree/placeKind';

/** A result of the find field. `marks` are [from, to) positions in the name, in UTF-16 units. */
export interface Found {
  readonly id: string;
  readonly kind: 'paper' | PlaceKind | 'person';
  readonly name: string;
  readonly marks: readonly (readonly [number, number])[];
  readonly reference: string | null;
  readonly stamp: Stamp | null;
  /** Its path: names from the series down; empty for people and series. */
  readonly path: readonly string[];
  /** For a person: their address. */
  readonly about: string | null;
}

/** The question of the find field. */
export const searchContract = {
  find: ask<readonly Found[]>()(z.object({ words: z.string().max(200) })),
};
