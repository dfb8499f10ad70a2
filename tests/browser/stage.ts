/** The one beginning and end of browser tests: a web server over the file's own library, and a browser. */
import type { Actor } from '@/server/gate/actor';
import { dropLibrary, passwords } from '../library';
import { Browser } from './browser';
import { WebServer } from './server';

/** What a test file plays on. */
interface Stage {
  readonly server: WebServer;
  readonly browser: Browser;
}

let web: WebServer | null = null;
const browsers: Browser[] = [];

/** Opens one more browser, closed at the end. */
export async function anotherBrowser(): Promise<Browser> {
  const browser = await Browser.open();
  browsers.push(browser);
  return browser;
}

/**
 * Starts a web server and a browser over the library that the file has founded, for `beforeAll`.
 * @param keeper who is signed in; nobody where it is left out.
 */
export async function begin(keeper?: Actor): Promise<Stage> {
  const server = await WebServer.start();
  web = server;
  const browser = await anotherBrowser();
  if (keeper) await browser.signIn(server.url, keeper.email, passwords.keeper);
  return { server, browser };
}

/** Ends all of it, and drops the library, for `afterAll`; also where the beginning failed. */
export async function end(drop: () => Promise<void> = dropLibrary): Promise<void> {
  for (const browser of browsers) await browser.close();
  await web?.end();
  await drop();
}
