import { and, eq, sql } from 'drizzle-orm';
import { strToU8, unzipSync, zipSync } from 'fflate';
import * as Y from 'yjs';
import { type startNotes } from '@/core/notes/starts';
import { fileBuffer } from '@/demo/file';
import { makers } from '@/demo/papers';
import type { Actor } from '@/server/gate/actor';
import { db, writableDb } from '@/server/db/client';
import { document, noteChange, version } from '@/server/db/schema';
import { contentFor, currentOf } from '@/server/documents/content';
import { restoreVersion } from '@/server/documents/amend';
import { docketOf } from '@/server/documents/docket';
import { readContent } from '@/server/blobs/content';
import { createNote, foreseeNote, noteFromPaper, noteStarts } from '@/server/notes/create';
import { noteAs } from '@/server/notes/download';
import { keepNote, keepRestingNotes, setNoteStart } from '@/server/notes/keep';
import { beginNote, writeNote } from '@/server/notes/write';
import { setLock } from '@/server/standstill/standstill';
import { dropLibrary, freshLibrary, furnished, newcomer, open, refusedAs } from '../library';
import { placeOn, say } from '../sheets';

let keeper: Actor;
let outsider: Actor;
let placeId: string;
let seriesId: string;

beforeAll(async () => {
  keeper = await freshLibrary();
  outsider = await newcomer(keeper, 'Out Sider');
  const { series, year } = await furnished(keeper);
  [seriesId, placeId] = [series.id, year.id];
});
afterAll(dropLibrary);

/** A person's window with a note open: what they type, and what they have heard. */
class Window {
  readonly text = new Y.Doc();
  readonly #typed: Uint8Array[] = [];
  #after = 0;

  private constructor(
    readonly actor: Actor,
    readonly documentId: string,
    readonly round: number,
  ) {
    this.text.on('update', (update: Uint8Array, origin: unknown) => {
      if (origin !== 'library') this.#typed.push(update);
    });
  }

  static async open(actor: Actor, documentId: string): Promise<Window> {
    const state = await beginNote(actor, { documentId });
    const window = new Window(actor, documentId, state.round);
    window.#take(state);
    return window;
  }

  /** Types a paragraph at the end, on this computer alone. */
  type(words: string): void {
    const paragraph = new Y.XmlElement('paragraph');
    paragraph.insert(0, [new Y.XmlText(words)]);
    this.text.getXmlFragment('text').push([paragraph]);
  }

  async exchange() {
    const changes = this.#typed.splice(0).map((each) => Buffer.from(each).toString('base64'));
    const { actor, documentId, round } = this;
    const state = await writeNote(actor, { documentId, round, after: this.#after, changes });
    if (state.round === round) this.#take(state);
    return state;
  }

  #take(state: { number: number; changes: readonly { change: string }[] }): void {
    for (const { change } of state.changes) Y.applyUpdate(this.text, Buffer.from(change, 'base64'), 'library');
    this.#after = state.number;
  }

  get words(): string {
    return this.text
      .getXmlFragment('text')
      .toString()
      .replace(/<[^>]+>/gu, ' ');
  }
}

async function written(documentId: string): Promise<string> {
  const pieces: Buffer[] = [];
  for await (const piece of readContent(await contentFor(keeper, currentOf(documentId), 'take')))
    pieces.push(Buffer.from(piece));
  return Buffer.concat(pieces).toString('utf8');
}

const newNote = async (title: string, ready: keyof typeof startNotes = 'empty'): Promise<string> =>
  (await createNote(keeper, { placeId, title, start: { ready } })).documentId;

const versionsOf = async (documentId: string): Promise<number> =>
  (await db().select({ id: version.id }).from(version).where(eq(version.documentId, documentId))).length;

describe('two people who write one note at once', () => {
  it('lose no word, in whatever order their changes come, and both see all', async () => {
    const documentId = await newNote('Shared', 'agenda');
    const [one, other] = [await Window.open(keeper, documentId), await Window.open(keeper, documentId)];
    for (let turn = 0; turn < 5; turn += 1) {
      one.type(`one${turn}`);
      other.type(`other${turn}`);
      await Promise.all([one.exchange(), other.exchange()]);
    }
    await one.exchange();
    await other.exchange();
    expect(one.words).toBe(other.words);
    await Promise.all([keepNote(keeper, { documentId }), keepNote(keeper, { documentId })]);
    const page = await written(documentId);
    for (let turn = 0; turn < 5; turn += 1) {
      expect(page).toContain(`<p>one${turn}</p>`);
      expect(page).toContain(`<p>other${turn}</p>`);
    }
    // Both left at once, and there is one version of what they wrote, beside the first.
    expect(await versionsOf(documentId)).toBe(2);
  });

  it('take in a change that comes twice once', async () => {
    const documentId = await newNote('Twice');
    const window = await Window.open(keeper, documentId);
    const changes: string[] = [];
    window.text.on('update', (update: Uint8Array) => changes.push(Buffer.from(update).toString('base64')));
    window.type('said once');
    const again = { documentId, round: window.round, after: 0, changes };
    await writeNote(keeper, again);
    await writeNote(keeper, again);
    await keepNote(keeper, { documentId });
    expect((await written(documentId)).match(/said once/gu)).toHaveLength(1);
  });

  it('are not stopped by a change that is none', async () => {
    const documentId = await newNote('Broken');
    const window = await Window.open(keeper, documentId);
    window.type('still here');
    await window.exchange();
    const rubbish = Buffer.from('no change of anything at all, but bytes').toString('base64');
    await writeNote(keeper, { documentId, round: window.round, after: 0, changes: [rubbish] });
    await keepNote(keeper, { documentId });
    expect(await written(documentId)).toContain('still here');
  });
});

describe('a note and its versions', () => {
  it('is kept as a version only when it has changed', async () => {
    const documentId = await newNote('Quiet', 'letter');
    const window = await Window.open(keeper, documentId);
    expect(await keepNote(keeper, { documentId })).toEqual({ versionNumber: null });
    window.type('Now it has.');
    await window.exchange();
    expect(await keepNote(keeper, { documentId })).toEqual({ versionNumber: 2 });
    expect(await keepNote(keeper, { documentId })).toEqual({ versionNumber: null });
    // And its changes have become one.
    const left = await db().select().from(noteChange).where(eq(noteChange.documentId, documentId));
    expect(left).toHaveLength(1);
    window.type('And again.');
    await window.exchange();
    expect(await keepNote(keeper, { documentId })).toEqual({ versionNumber: 3 });
    expect(await written(documentId)).toMatch(/Now it has\..*And again\./su);
  });

  it('is begun anew from a version that was restored, and takes nothing more from windows opened before', async () => {
    const documentId = await newNote('Restored');
    const window = await Window.open(keeper, documentId);
    window.type('Second thoughts');
    await window.exchange();
    await keepNote(keeper, { documentId });
    const { revision } = await docketOf(keeper, { documentId });
    await restoreVersion(keeper, { documentId, number: 1, revision });
    window.type('typed into the old text');
    expect((await window.exchange()).round).not.toBe(window.round);
    const later = await Window.open(keeper, documentId);
    expect(later.words).not.toContain('Second thoughts');
    expect((await window.exchange()).round).not.toBe(window.round);
    later.type('Third thoughts');
    await later.exchange();
    await keepNote(keeper, { documentId });
    const page = await written(documentId);
    expect(page).toContain('Third thoughts');
    expect(page).not.toContain('typed into the old text');
  });

  it('is kept by the library where whoever wrote it never left', async () => {
    const documentId = await newNote('Left open');
    const window = await Window.open(keeper, documentId);
    window.type('The window was closed with this in it.');
    await window.exchange();
    await keepRestingNotes();
    expect(await versionsOf(documentId)).toBe(1);
    await writableDb()
      .update(noteChange)
      .set({ at: sql`${noteChange.at} - interval '11 minutes'` })
      .where(eq(noteChange.documentId, documentId));
    await keepRestingNotes();
    expect(await versionsOf(documentId)).toBe(2);
    expect(await written(documentId)).toContain('The window was closed with this in it.');
  });
});

describe('who may write', () => {
  it('is asked at each change, also of a window that is open already', async () => {
    const documentId = await newNote('Locked meanwhile');
    const window = await Window.open(keeper, documentId);
    expect(await refusedAs(beginNote(outsider, { documentId }))).toBe('not-found');
    expect(await refusedAs(writeNote(outsider, { documentId, round: 1, after: 0, changes: [] }))).toBe('not-found');
    expect(await refusedAs(keepNote(outsider, { documentId }))).toBe('not-found');
    await setLock(keeper, { documentIds: [documentId], locked: true });
    window.type('too late');
    expect(await refusedAs(window.exchange())).toBe('locked');
  });

  it('is nobody who could file a note and not change it', async () => {
    const { series, year } = await furnished(keeper, 'Contributed');
    const contributor = await newcomer(keeper, 'Con Tributor');
    await open(keeper, series.id, contributor, 'contributor');
    const note = createNote(contributor, { placeId: year.id, title: 'Mine', start: { ready: 'empty' } });
    expect(await refusedAs(note)).toBe('not-allowed');
    await open(keeper, series.id, contributor, 'officer');
    const { documentId } = await createNote(contributor, {
      placeId: year.id,
      title: 'Mine',
      start: { ready: 'empty' },
    });
    expect((await Window.open(contributor, documentId)).round).toBe(1);
  });

  it('does not make a note of a paper that is none, nor of what is no document', async () => {
    const text = await fileBuffer(keeper, placeId, 'plain.txt', Buffer.from('A text, and not a note.'));
    expect(await refusedAs(beginNote(keeper, { documentId: text }))).toBe('not-found');
    expect(await refusedAs(noteFromPaper(keeper, { documentId: text, as: 'paper' }))).toBe('kind-refused');
    const { 'word/document.xml': _document, ...rest } = unzipSync(
      new Uint8Array((await makers['docx']?.(draft)) ?? new Uint8Array()),
    );
    const damaged = Buffer.from(zipSync({ ...rest, 'word/document.xml': strToU8('<w:document') }));
    const broken = await fileBuffer(keeper, placeId, 'broken.docx', damaged);
    expect((await docketOf(keeper, { documentId: broken })).mediaType).toContain('wordprocessingml');
    expect(await refusedAs(foreseeNote(keeper, { documentId: broken }))).toBe('kind-refused');
  });
});

const draft = {
  title: 'Letter to the growers',
  subtitle: 'Works',
  written: new Date('2026-07-14T00:00:00Z'),
  author: 'Kea Keeper',
  paragraphs: ['The lay is closed from Monday.', 'It opens again in May.'],
  figures: [],
};

describe('a Word paper opened as a note', () => {
  it('becomes its next version, the Word paper staying as the one before', async () => {
    const documentId = await fileBuffer(
      keeper,
      placeId,
      'Letter.docx',
      (await makers['docx']?.(draft)) ?? Buffer.alloc(0),
    );
    expect((await foreseeNote(keeper, { documentId })).notKept).toEqual([]);
    await noteFromPaper(keeper, { documentId, as: 'version' });
    expect(await versionsOf(documentId)).toBe(2);
    const docket = await docketOf(keeper, { documentId });
    expect(docket).toMatchObject({ isNote: true, mediaType: 'text/html' });
    expect(docket.versions[1]?.mediaType).toContain('wordprocessingml');
    expect(await written(documentId)).toContain('The lay is closed from Monday.');
    const window = await Window.open(keeper, documentId);
    expect(window.words).toContain('It opens again in May.');
  });

  it('or a paper of its own, beside it', async () => {
    const source = await fileBuffer(
      keeper,
      placeId,
      'Other.docx',
      (await makers['docx']?.(draft)) ?? Buffer.alloc(0),
      'both',
    );
    const { documentId } = await noteFromPaper(keeper, { documentId: source, as: 'paper' });
    expect(documentId).not.toBe(source);
    expect(await versionsOf(source)).toBe(1);
    const [made] = await db().select({ title: document.title }).from(document).where(eq(document.id, documentId));
    expect(made?.title).toBe('Other (2)');
  });
});

describe('what a note is handed out as', () => {
  it('is a Word document, a PDF and Markdown that say the same', async () => {
    const documentId = await newNote('Handed out', 'minutes');
    const window = await Window.open(keeper, documentId);
    window.type('Resolved: the fee stays.');
    await window.exchange();
    await keepNote(keeper, { documentId });
    const content = await contentFor(keeper, currentOf(documentId), 'take');
    const word = await noteAs(content, 'docx');
    expect(word.subarray(0, 2).toString()).toBe('PK');
    const { default: mammoth } = await import('mammoth');
    expect((await mammoth.extractRawText({ buffer: word })).value).toContain('Resolved: the fee stays.');
    const pdf = await noteAs(content, 'pdf');
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    const markdown = (await noteAs(content, 'md')).toString('utf8');
    expect(markdown).toContain('# Minutes');
    expect(markdown).toContain('| What | Who | By when |');
    expect(markdown).toContain('Resolved: the fee stays.');
  });

  it('holds nothing that runs, whatever its changes say', async () => {
    const documentId = await newNote('Harmful');
    const window = await Window.open(keeper, documentId);
    const paragraph = new Y.XmlElement('paragraph');
    const text = new Y.XmlText();
    text.insert(0, 'press me', { link: { href: 'javascript:alert(1)' } });
    paragraph.insert(0, [text]);
    window.text.getXmlFragment('text').push([paragraph, new Y.XmlElement('script')]);
    await window.exchange();
    await keepNote(keeper, { documentId });
    const page = await written(documentId);
    expect(page).toContain('press me');
    expect(page).not.toMatch(/<script|javascript:/iu);
  });
});

describe('starts', () => {
  it('are ready-made ones, and notes that a keeper offers to those who may see them', async () => {
    const start = await newNote('Our agenda', 'agenda');
    expect(await noteStarts(keeper)).toEqual([]);
    expect(
      await refusedAs(setNoteStart({ ...keeper, keeper: false }, { documentId: start, isStart: true })),
    ).toBeTruthy();
    await setNoteStart(keeper, { documentId: start, isStart: true });
    expect(await noteStarts(keeper)).toEqual([{ documentId: start, title: 'Our agenda' }]);
    expect(await noteStarts(outsider)).toEqual([]);
    // A new note is a copy: who may not have copies is offered none.
    const onlooker = await newcomer(keeper, 'On Looker');
    await open(keeper, seriesId, onlooker, 'reader');
    await say(keeper, placeOn(placeId), [{ who: onlooker, withholds: ['take'] }]);
    expect((await docketOf(onlooker, { documentId: start })).title).toBe('Our agenda');
    expect(await noteStarts(onlooker)).toEqual([]);
    const { documentId } = await createNote(keeper, { placeId, title: 'From ours', start: { documentId: start } });
    expect(await written(documentId)).toContain('Apologies for absence');
    const refused = createNote(outsider, { placeId, title: 'Not mine', start: { documentId: start } });
    expect(await refusedAs(refused)).toBe('not-found');
  });

  it('each can be read as a note', async () => {
    for (const ready of ['empty', 'agenda', 'minutes', 'letter'] as const) {
      const documentId = await newNote(`Start ${ready}`, ready);
      const [row] = await db()
        .select({ number: version.number })
        .from(version)
        .where(and(eq(version.documentId, documentId), eq(version.mediaType, 'text/html')));
      expect(row?.number).toBe(1);
    }
  });
});
