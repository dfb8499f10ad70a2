/** How many bytes had been sent at a time. */
export interface Reading {
  readonly atMs: number;
  readonly bytes: number;
}

/** How far back readings count towards the speed. */
export const paceWindowMs = 6000;

/** Adds a reading and drops those older than the window, except one at its edge. */
export function withReading(readings: readonly Reading[], reading: Reading): Reading[] {
  const edge = reading.atMs - paceWindowMs;
  const firstInside = readings.findIndex((each) => each.atMs >= edge);
  const kept = firstInside === -1 ? readings.slice(-1) : readings.slice(Math.max(0, firstInside - 1));
  return [...kept, reading];
}

/** Bytes per second over the window; null before there are two readings at different times. */
export function bytesPerSecond(readings: readonly Reading[]): number | null {
  const first = readings[0];
  const last = readings.at(-1);
  if (!first || !last || last.atMs <= first.atMs) return null;
  return Math.max(0, ((last.bytes - first.bytes) * 1000) / (last.atMs - first.atMs));
}

/** Seconds until the rest is sent at that speed; null if unknown. */
export function secondsLeft(restBytes: number, speed: number | null): number | null {
  return speed === null || speed <= 0 ? null : restBytes / speed;
}
