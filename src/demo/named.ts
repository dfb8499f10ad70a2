import type { Actor } from '@/server/gate/actor';

/** The demo’s people by name. */
export type People = ReadonlyMap<string, Actor>;

/** What has this name; throws if nothing has. */
export function someone<T>(from: ReadonlyMap<string, T>, name: string): T {
  const found = from.get(name);
  if (!found) throw new Error(`The demo has no ${name}`);
  return found;
}

/** Places by their names from the series down, joined by a slash. */
/** Ids of places by their path. */
export type Places = Map<string, string>;
