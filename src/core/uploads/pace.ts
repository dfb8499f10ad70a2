/** One reading of how much had gone at a moment. */
export interface Reading {
  readonly atMs: number;
  readonly bytes: number;
}

/** How far back readings count towards the speed. */
export const paceWindowMs = 6000;

/** The readings with one more, those older than the window dropped (one older is kept as the window's edge). */
export function withReading(readings: readonly Reading[], reading: Reading): Reading[] {
  const edge = reading.atMs - paceWindowMs;
  const firstInside = readings.findIndex((each) => each.atMs >= edge);
  const kept = firstInside === -1 ? readings.slice(-1) : readings.slice(Math.max(0, firstInside - 1));
  return [...kept, reading];
}

/** Bytes a second over the window; null before there are two readings apart in time. */
export function bytesPerSecond(readings: readonly Reading[]): number | null {
  const first = readings[0];
  const last = readings.at(-1);
  if (!first || !last || last.atMs <= first.atMs) return null;
  return Math.max(0, ((last.bytes - first.bytes) * 1000) / (last.atMs - first.atMs));
}

/** Seconds until the rest has gone at that speed; null where it cannot be said. */
export function secondsLeft(restBytes: number, speed: number | null): number | null {
  return speed === null || speed <= 0 ? null : restBytes / speed;
}
