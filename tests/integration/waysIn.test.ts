import { appendFile, mkdir, readdir, symlink, utimes, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { eq } from 'drizzle-orm';
import type { WayInSettings } from '@/core/intake/wayIn';
import { atMoment } from '@/server/base/clock';
import { db, writableDb } from '@/server/db/client';
import { arrival, wayIn } from '@/server/db/schema';
import { fileArrival } from '@/server/intake/act';
import { fileNextByRule } from '@/server/intake/fileByRule';
import { arrivalSheet } from '@/server/intake/read';
import { keepFilingRule, removeFilingRule } from '@/server/intake/rules';
import { forgetWaysIn, keepWayIn, lookNow, removeWayIn, restoreWayIn, waysIn } from '@/server/intake/ways/ways';
import { readArrivals } from '../arrivals';
import { Dovecot } from '../dovecot';
import { refusal } from '../library';
import {
  keeper,
  clerk,
  gull,
  folder,
  withWaysIn,
  mail,
  keep,
  look,
  lookTwice,
  arrivals,
  waiting,
  fault,
  written,
} from './lookingIn';

withWaysIn();

describe('a folder of scans', () => {
  const scans: WayInSettings = { kind: 'scans', folder: 'scanner', atBlanks: false };
  const at = (name: string) => path.join(folder, 'scanner', name);

  it('is taken from: a scan waits, its words speak for a dossier, and it is filed as a paper', async () => {
    await keep(scans);
    await mkdir(at(''), { recursive: true });
    await writeFile(at('Scan0001.pdf'), await written(['Delivery note', 'Gull Chandlers S-018']));
    expect(await lookTwice()).toBe(1);
    expect(await readdir(at(''))).toEqual(['Taken']);
    expect(await readdir(at('Taken'))).toEqual(['Scan0001.pdf']);
    expect((await waysIn(keeper, {})).ways).toMatchObject([{ taken: 1, fault: null }]);
    await readArrivals();
    const [row] = await waiting();
    expect(row).toMatchObject({ way: 'scan', subject: 'Scan0001.pdf', papers: 1, dossier: 'S-018 Gull Chandlers' });
    const arrivalId = row?.id ?? '';
    const sheet = await arrivalSheet(keeper, { arrivalId });
    expect(sheet.parts).toMatchObject([{ attachment: null, title: 'Scan0001', counts: true }]);
    const parts = [{ attachment: null, title: 'Delivery note' }];
    const { documentIds } = await fileArrival(keeper, { arrivalId, revision: sheet.revision, placeId: gull, parts });
    expect(documentIds).toHaveLength(1);
  });

  it('a file that is still written is waited for, however long it stands still', async () => {
    await keep(scans);
    await mkdir(at(''), { recursive: true });
    const whole = await written(['A long stack', 'of pages']);
    await writeFile(at('Half.pdf'), whole.subarray(0, whole.length / 2));
    expect(await lookTwice()).toBe(0);
    await utimes(at('Half.pdf'), new Date(), new Date(Date.now() - 2 * 60 * 60 * 1000));
    expect(await lookTwice()).toBe(0);
    expect(await fault()).toMatch(/Half\.pdf have had no end for an hour/u);
    await appendFile(at('Half.pdf'), whole.subarray(whole.length / 2));
    // At the first look it has changed since the one before.
    expect(await look()).toBe(0);
    expect(await look()).toBe(1);
    expect(await fault()).toBeNull();
  });

  it('the same name with another content is another scan; the same content is one that arrived before', async () => {
    await keep(scans);
    await mkdir(at(''), { recursive: true });
    for (const text of ['first', 'second', 'first']) {
      await writeFile(at('Scan.txt'), text);
      expect(await lookTwice()).toBe(1);
    }
    await readArrivals();
    expect((await readdir(at('Taken'))).filter((name) => name.startsWith('Scan ('))).toHaveLength(2);
    expect((await arrivals()).map(({ state }) => state).sort()).toEqual(['again', 'waiting', 'waiting']);
  });

  it('what was kept and not yet moved when the process died is moved, and not kept twice', async () => {
    await keep(scans);
    await mkdir(at(''), { recursive: true });
    const when = new Date(Date.now() - 1000);
    await writeFile(at('Once.txt'), 'once');
    await utimes(at('Once.txt'), when, when);
    await lookTwice();
    // As it lay there before it was moved.
    await writeFile(at('Once.txt'), 'once');
    await utimes(at('Once.txt'), when, when);
    await lookTwice();
    expect(await arrivals()).toHaveLength(1);
    expect(await readdir(at(''))).toEqual(['Taken']);
  });

  it('follows no link out of its folder, and takes nothing hidden', async () => {
    await keep(scans);
    await mkdir(at(''), { recursive: true });
    await writeFile(path.join(folder, 'secret.txt'), 'Nobody’s business');
    await symlink(path.join(folder, 'secret.txt'), at('link.txt'));
    await writeFile(at('.hidden'), 'hidden');
    expect(await lookTwice()).toBe(0);
    for (const name of ['../..', '/etc', 'a/b', '.ssh', 'Taken/..', ''])
      expect(await refusal(keep({ kind: 'scans', folder: name, atBlanks: false }))).toMatch(/^invalid/u);
  });
});

describe('folders and files of mails', () => {
  it('a maildir: new and read mails are taken once, whatever becomes of their flags; nothing in it is changed', async () => {
    await keep({ kind: 'maildir', folder: 'post' });
    await look();
    const at = (name: string) => path.join(folder, 'post', name);
    await writeFile(at('new/1.a.host'), await mail('One'));
    await writeFile(at('cur/2.b.host:2,S'), await mail('Two'));
    expect(await look()).toBe(2);
    await writeFile(at('cur/1.a.host:2,RS'), await mail('One'));
    expect(await look()).toBe(0);
    expect(await readdir(at('new'))).toEqual(['1.a.host']);
    await readArrivals();
    expect((await waiting()).map(({ subject, dossier }) => [subject, dossier]).sort()).toEqual([
      ['One', 'S-018 Gull Chandlers'],
      ['Two', 'S-018 Gull Chandlers'],
    ]);
  });

  it('an mbox: what is added is taken; “From ” at the beginning of a line within a mail does not split it', async () => {
    await keep({ kind: 'mbox', folder: 'old' });
    await look();
    const file = path.join(folder, 'old', 'Inbox');
    const entry = (bytes: Buffer) =>
      Buffer.concat([Buffer.from('From billing@gull.example Sat Nov 28 10:00:00 2026\n'), bytes, Buffer.from('\n\n')]);
    await writeFile(
      file,
      Buffer.concat([entry(await mail('One', 'Words\n>From here on, more words')), entry(await mail('Two'))]),
    );
    expect(await lookTwice()).toBe(2);
    await appendFile(file, entry(await mail('Three')));
    expect(await lookTwice()).toBe(1);
    expect(await lookTwice()).toBe(0);
    await readArrivals();
    expect((await waiting()).map(({ subject }) => subject).sort()).toEqual(['One', 'Three', 'Two']);
  });
});

describe('a mailbox', () => {
  let server: Dovecot;
  beforeAll(async () => {
    server = await Dovecot.start('salt-and-tide');
  });
  afterAll(() => server.remove());
  const settings = (more: Partial<Extract<WayInSettings, { kind: 'mailbox' }>> = {}): WayInSettings => ({
    ...{ kind: 'mailbox', host: '127.0.0.1', port: server.port, line: 'plain', user: 'office', folder: 'INBOX' },
    ...more,
  });

  it('is fetched from, each mail once, and only read; a server that goes away is waited for', async () => {
    await keep(settings(), { password: 'salt-and-tide' });
    await server.deliver(await mail('First'));
    await server.deliver(await mail('Second'));
    expect(await look()).toBe(2);
    expect(await fault()).toBeNull();
    expect(await look()).toBe(0);
    await server.stop();
    expect(await look()).toBe(0);
    expect(await fault()).toMatch(/There is no mail server at 127\.0\.0\.1/u);
    await server.begin();
    await server.deliver(await mail('Third'));
    expect(await look()).toBe(1);
    expect(await fault()).toBeNull();
    // The server read them for us, and has marked none as read.
    expect((await readdir(path.join(server.folder, 'mail/cur'))).filter((name) => /:2,.*S/u.test(name))).toEqual([]);
    await readArrivals();
    expect((await waiting()).map(({ subject }) => subject).sort()).toEqual(['First', 'Second', 'Third']);
    // What was taken before how far it was got to was written down is known again.
    await writableDb().update(wayIn).set({ reached: null });
    expect(await look()).toBe(0);
    expect(await arrivals()).toHaveLength(3);
  });

  it('a wrong password, a folder that is not there and a server that is none are told in words', async () => {
    const { id } = await keep(settings(), { password: 'wrong' });
    await look();
    expect(await fault()).toBe('The mail server does not take the password of office.');
    await keep(settings({ folder: 'Nowhere' }), { id, password: 'salt-and-tide' });
    await look();
    expect(await fault()).toBe('There is no folder “Nowhere” in the mailbox.');
    await keep(settings({ line: 'starttls' }), { id, revision: 1, password: 'salt-and-tide' });
    await look();
    expect(await fault()).toMatch(/does not speak TLS/u);
  });

  it('its password is told to nobody, and sent to no other server than it was given for', async () => {
    const { id } = await keep(settings(), { password: 'salt-and-tide' });
    expect(JSON.stringify(await waysIn(keeper, {}))).not.toContain('salt-and-tide');
    expect(JSON.stringify(await db().select().from(wayIn))).not.toContain('salt-and-tide');
    expect(await refusal(keep(settings({ host: 'localhost' }), { id }))).toMatch(/give the password again/u);
    expect(await refusal(keep(settings({ host: 'mail.gull.example' }), { password: 'x' }))).toMatch(/Without TLS/u);
    expect(await refusal(keep(settings({ user: 'another' })))).toMatch(/password/u);
    await keep(settings(), { id, name: 'Called otherwise' });
    expect(await refusal(keep(settings(), { id }))).toMatch(/^conflict/u);
  });
});

describe('ways in', () => {
  it('are the keepers’; no two take from one place; what came stays when one is removed', async () => {
    const { id } = await keep({ kind: 'scans', folder: 'Tray', atBlanks: false });
    expect(await refusal(waysIn(clerk, {}))).toMatch(/^not-allowed/u);
    for (const refused of [
      keepWayIn(clerk, {
        id: null,
        revision: 0,
        name: 'x',
        on: true,
        password: '',
        settings: { kind: 'scans', folder: 'x', atBlanks: false },
      }),
      lookNow(clerk, { id }),
      removeWayIn(clerk, { id }),
    ])
      expect(await refusal(refused)).toMatch(/^not-allowed/u);
    expect(await refusal(keep({ kind: 'mbox', folder: 'tray' }))).toMatch(/takes from there already/u);
    await mkdir(path.join(folder, 'Tray'), { recursive: true });
    await writeFile(path.join(folder, 'Tray', 'a.txt'), 'A note');
    await lookTwice();
    await removeWayIn(keeper, { id });
    expect((await waysIn(keeper, {})).ways.some((each) => each.id === id)).toBe(false);
    await atMoment(new Date(Date.now() + 2 * 86_400_000), forgetWaysIn);
    const [left] = await db().select().from(arrival).where(eq(arrival.fileName, 'a.txt'));
    expect(left).toMatchObject({ wayInId: null, way: 'scan' });
    expect(await refusal(restoreWayIn(keeper, { id }))).toMatch(/^not-found/u);
  });

  it('that was removed is had back as it was for a day; nothing is fetched by it meanwhile', async () => {
    const settings = { kind: 'scans', folder: 'Back', atBlanks: false } as const;
    const { id } = await keep(settings);
    await mkdir(path.join(folder, 'Back'), { recursive: true });
    await removeWayIn(keeper, { id });
    await writeFile(path.join(folder, 'Back', 'back.txt'), 'A note');
    await lookTwice();
    expect(await db().$count(arrival, eq(arrival.fileName, 'back.txt'))).toBe(0);
    for (const gone of [removeWayIn(keeper, { id }), lookNow(keeper, { id }), keep(settings, { id, name: 'x' })])
      expect(await refusal(gone)).toMatch(/^not-found/u);
    expect(await refusal(restoreWayIn(clerk, { id }))).toMatch(/^not-allowed/u);
    // Another takes from there meanwhile.
    const { id: other } = await keep(settings);
    expect(await refusal(restoreWayIn(keeper, { id }))).toMatch(/takes from there already/u);
    await removeWayIn(keeper, { id: other });
    await forgetWaysIn();
    // Of two at once, one brings it back.
    const both = await Promise.all([refusal(restoreWayIn(keeper, { id })), refusal(restoreWayIn(keeper, { id }))]);
    expect(both.filter((each) => each === 'done')).toHaveLength(1);
    await lookTwice();
    const [come] = await db().select().from(arrival).where(eq(arrival.fileName, 'back.txt'));
    expect(come).toMatchObject({ wayInId: id });
  });
});

describe('what a mail server found out about a sender', () => {
  const put = async (name: string, result: string) => {
    await mkdir(path.join(folder, 'post', 'new'), { recursive: true });
    const head = `Authentication-Results: mx.office.example; ${result}\r\nAuthentication-Results: mx.evil.example; dmarc=pass\r\n`;
    await writeFile(path.join(folder, 'post', 'new', name), Buffer.concat([Buffer.from(head), await mail(name)]));
  };
  it('is shown where that server is believed, and a rule files nothing by itself whose sender it doubts', async () => {
    const keepRule = (filesFrom: number | null) => ({
      ...{ id: null, revision: 0, name: 'Gull', on: true, title: '', placeId: gull, filesFrom },
      conditions: [{ field: 'from' as const, text: 'gull.example' }],
    });
    const { id } = await keepFilingRule(keeper, keepRule(50));
    await keep({ kind: 'maildir', folder: 'post', checkedBy: 'MX.office.example' });
    await put('true', 'spf=pass smtp.mailfrom=gull.example; dmarc=pass header.from=gull.example');
    await put('faked', 'spf=fail smtp.mailfrom=gull.example; dkim=none');
    await look();
    await readArrivals();
    while (await fileNextByRule());
    const rows = await arrivals();
    const sheet = (subject: string) =>
      arrivalSheet(keeper, { arrivalId: rows.find((each) => each.subject === subject)?.id ?? '' });
    expect(await sheet('true')).toMatchObject({
      state: 'filed',
      checked: { says: 'SPF pass for gull.example, DMARC pass for gull.example', isDoubtful: false },
    });
    expect(await sheet('faked')).toMatchObject({ state: 'waiting', checked: { isDoubtful: true } });
    expect((await sheet('faked')).leftBecause).toMatch(/doubts its sender: SPF fail for gull.example, DKIM none/u);
    await removeFilingRule(keeper, { id });
  });

  it('is not believed where no server is named', async () => {
    await keep({ kind: 'maildir', folder: 'post' });
    await put('unnamed', 'spf=fail');
    await look();
    await readArrivals();
    const row = (await arrivals()).find(({ subject }) => subject === 'unnamed');
    expect((await arrivalSheet(keeper, { arrivalId: row?.id ?? '' })).checked).toEqual({ says: '', isDoubtful: false });
  });
});
