import type { Actor } from '@/server/gate/actor';
import { freshLibrary, furnished, newcomer, open, passwords } from '../library';
import { WebServer } from './server';

/** Those who ask over HTTP: a keeper, a reader of the one series, and one to whom nothing is open. */
export interface Cast {
  readonly keeper: Actor;
  readonly reader: Actor;
  readonly outsider: Actor;
  readonly home: Awaited<ReturnType<typeof furnished>>;
  readonly server: WebServer;
  /** Their cookies, by what they are called here: `keeper`, `reader`, `outsider`. */
  readonly cookies: ReadonlyMap<string, string>;
}

/** A library with its cast, all signed in at a web server that has been started. */
export async function enter(): Promise<Cast> {
  const keeper = await freshLibrary();
  const reader = await newcomer(keeper, 'Rea Der');
  const outsider = await newcomer(keeper, 'Out Sider');
  const home = await furnished(keeper);
  await open(keeper, home.series.id, reader, 'reader');
  const server = await WebServer.start();
  const cookies = new Map([
    ['keeper', await server.signIn(keeper.email, passwords.keeper)],
    ['reader', await server.signIn(reader.email, passwords.others)],
    ['outsider', await server.signIn(outsider.email, passwords.others)],
  ]);
  return { keeper, reader, outsider, home, server, cookies };
}
