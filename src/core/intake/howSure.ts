/** Something that was told with how sure it is, from 0 to 1, and whether it was right. */
export interface Told {
  readonly sure: number;
  readonly right: boolean;
}

/** Of what was told about equally sure: how sure on average, from 0 to 1, and how much of it was right. */
export interface SureRow {
  /** As sure as this at least, and less than the row before. */
  readonly from: number;
  readonly said: number;
  readonly right: number;
  readonly of: number;
}

/** Where one row ends and the next begins. */
const bounds = [0.97, 0.9, 0.7, 0] as const;

/** How often what was told was right, by how sure it was, the surest first; rows without anything are left out. */
export function howSure(told: readonly Told[]): SureRow[] {
  return bounds.flatMap((from, at) => {
    const those = told.filter(({ sure }) => sure >= from && sure < (bounds[at - 1] ?? Infinity));
    if (those.length === 0) return [];
    const said = those.reduce((sum, { sure }) => sum + sure, 0) / those.length;
    return [{ from, said, right: those.filter(({ right }) => right).length, of: those.length }];
  });
}
