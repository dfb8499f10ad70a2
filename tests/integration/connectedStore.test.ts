import { once } from 'node:events';
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { eq } from 'drizzle-orm';
import type { WayInSettings } from '@/core/intake/wayIn';
import { db, writableDb } from '@/server/db/client';
import { storePaper, wayIn } from '@/server/db/schema';
import { lookAtWaysIn } from '@/server/intake/ways/look';
import { inStore, pickFromStore } from '@/server/intake/ways/pick';
import { lookNow, waysIn } from '@/server/intake/ways/ways';
import { standInUser, StandInStore } from '../../worker/store';
import { readArrivals } from '../arrivals';
import { freePort } from '../dovecot';
import { refusal } from '../library';
import { keeper, clerk, folder, withWaysIn, keep, look, arrivals, waiting, fault, written } from './lookingIn';

withWaysIn();

describe('a connected store', () => {
  let store: StandInStore;
  let port: number;
  let lying: string;
  beforeAll(async () => {
    port = await freePort();
    lying = path.join(folder, 'elsewhere');
    store = new StandInStore(port, lying);
    await store.start();
    await mkdir(path.join(lying, 'Bills', '2026'), { recursive: true });
  });
  afterAll(() => store.stop());
  const settings = (follows: boolean, more: Partial<{ address: string; user: string }> = {}): WayInSettings => ({
    ...{ kind: 'store', address: `http://127.0.0.1:${port}/`, user: standInUser.name, follows },
    ...more,
  });
  const set = (follows: boolean, more = {}, password: string = standInUser.password) =>
    keep(settings(follows, more), { password });

  it('is listed, papers are picked from it by hand, once, and one that has changed since can be picked again', async () => {
    await writeFile(path.join(lying, 'Bills', '2026', 'Gull & Söhne 100%.pdf'), await written(['For S-018']));
    await writeFile(path.join(lying, 'Notes.txt'), 'For nobody');
    const { id } = await set(false);
    expect(await look()).toBe(0);
    const inIt = async (words = '') =>
      (await inStore(keeper, { id, words })).papers.map(({ path: at, state }) => [at, state]);
    expect(await inIt()).toEqual([
      ['/Bills/2026/Gull & Söhne 100%.pdf', 'there'],
      ['/Notes.txt', 'there'],
    ]);
    expect(await inIt('100% gull')).toHaveLength(1);
    const paths = ['/Bills/2026/Gull & Söhne 100%.pdf'];
    const tries = await Promise.allSettled([
      pickFromStore(keeper, { id, paths }),
      pickFromStore(keeper, { id, paths }),
    ]);
    expect(tries.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
    // Both look at once, and one dies before it has noted what it took.
    await Promise.all([look(), look()]);
    await writableDb()
      .update(storePaper)
      .set({ state: 'picked' })
      .where(eq(storePaper.path, paths[0] ?? ''));
    await look();
    await readArrivals();
    expect((await waiting()).map(({ subject, dossier, way }) => [subject, dossier, way])).toEqual([
      ['Gull & Söhne 100%.pdf', 'S-018 Gull Chandlers', 'store'],
    ]);
    await writeFile(path.join(lying, 'Bills', '2026', 'Gull & Söhne 100%.pdf'), await written(['For S-018, mended']));
    await look();
    expect((await inIt('gull'))[0]?.[1]).toBe('there');
    expect(await refusal(pickFromStore(clerk, { id, paths }))).toMatch(/^not-allowed/u);
    expect(await refusal(pickFromStore(keeper, { id, paths: ['/gone.pdf'] }))).toMatch(/^conflict/u);
  });

  it('is followed where that is wished: what lies in it and what comes into it; what is taken away there stays here', async () => {
    await set(true);
    await look();
    const before = (await arrivals()).length;
    expect(before).toBe(2);
    await writeFile(path.join(lying, 'Later.txt'), 'It came later');
    await look();
    await rm(path.join(lying, 'Later.txt'));
    await look();
    expect(await arrivals()).toHaveLength(3);
    expect(await db().$count(storePaper)).toBe(2);
  });

  it('is looked at again when that is wanted while a look is under way', async () => {
    const { id } = await set(false);
    await look();
    let first = true;
    const server = createServer((_request, response) => {
      const pressed = first ? lookNow(keeper, { id }) : Promise.resolve();
      first = false;
      void pressed.finally(() => response.writeHead(500).end());
    }).listen(0, '127.0.0.1');
    await once(server, 'listening');
    await writableDb()
      .update(wayIn)
      .set({ settings: settings(false, { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/` }) });
    const isWanted = async () => (await waysIn(keeper, {})).ways[0]?.lookNow;
    // Of two looks at once, neither takes the other’s wish for met.
    await Promise.all([look(), look()]);
    expect(first).toBe(false);
    expect(await isWanted()).toBe(true);
    await lookAtWaysIn();
    expect(await isWanted()).toBe(false);
    server.close();
  });

  it('that refuses, is not there, is none, or sends elsewhere is told in words', async () => {
    await set(false, {}, 'not that');
    await look();
    expect(await fault()).toBe(`127.0.0.1:${port} does not take the password of store.`);
    await writableDb().delete(wayIn);
    await set(false, { address: `http://127.0.0.1:${port}/Nowhere/` });
    await look();
    expect(await fault()).toBe(`There is no such folder on 127.0.0.1:${port}.`);
    await writableDb().delete(wayIn);
    await set(false, { address: `http://127.0.0.1:${await freePort()}/` });
    await look();
    expect(await fault()).toMatch(/^Nothing answers at/u);
    for (const [answer, says] of [
      [
        (response: ServerResponse) => response.writeHead(302, { location: 'http://127.0.0.1:1/' }).end(),
        /to another address/u,
      ],
      [(response: ServerResponse) => response.writeHead(207).end('<not xml'), /did not answer as a connected store/u],
      [
        (response: ServerResponse) => response.writeHead(207).end(Buffer.alloc(21_000_000, 'x')),
        /more about one folder than is read/u,
      ],
      [(response: ServerResponse) => response.writeHead(500).end(), /answers 500/u],
      [(response: ServerResponse) => response.destroy(), /did not answer as a connected store/u],
    ] as const) {
      const server = createServer((_request, response) => void answer(response)).listen(0, '127.0.0.1');
      await once(server, 'listening');
      await writableDb().delete(wayIn);
      await set(false, { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}/` });
      await look();
      expect(await fault()).toMatch(says);
      server.close();
    }
  });

  it('goes away in the middle: what was picked is taken once it is back', async () => {
    await writeFile(path.join(lying, 'Notes.txt'), 'For nobody, again');
    const { id } = await set(false);
    await look();
    await pickFromStore(keeper, { id, paths: ['/Notes.txt'] });
    await store.stop();
    await look();
    expect(await fault()).toMatch(/^Nothing answers at/u);
    expect(await arrivals()).toHaveLength(0);
    store = new StandInStore(port, lying);
    await store.start();
    await look();
    expect(await fault()).toBeNull();
    expect(await arrivals()).toHaveLength(1);
  });

  it('keeps its password to its server: none without TLS, none for another server without giving it anew', async () => {
    expect(await refusal(set(false, { address: 'http://files.example/' }))).toMatch(/begins with https/u);
    expect(await refusal(set(false, { address: 'file:///etc/passwd' }))).toMatch(/not the address of a folder/u);
    expect(await refusal(set(false, {}, ''))).toMatch(/Give the password/u);
    const { id } = await set(false);
    const change = (address: string) => keep(settings(false, { address }), { id });
    expect(await refusal(change('https://elsewhere.example/'))).toMatch(/give the password again/u);
    expect(await change(`http://127.0.0.1:${port}/Bills/`)).toEqual({ id });
    expect(await refusal(set(false, { address: `http://127.0.0.1:${port}/Bills` }))).toMatch(
      /takes from there already/u,
    );
  });
});
