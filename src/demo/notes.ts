import * as Y from 'yjs';
import { noteField } from '@/core/notes/extensions';
import type { ReadyStart } from '@/core/notes/starts';
import type { Actor } from '@/server/gate/actor';
import { createNote } from '@/server/notes/create';
import { keepNote, setNoteStart } from '@/server/notes/keep';
import { beginNote, writeNote } from '@/server/notes/write';
import { someone, type People, type Places } from './named';
import { keeper } from './people';

/** Notes that were written in the browser: one that is offered as a start, and one that two people wrote. */
export async function writeNotes(people: People, places: Places): Promise<void> {
  const maren = someone(people, keeper.name);
  const templates = someone(places, 'Governing papers/Templates');
  const start = await newNote(maren, templates, 'Agenda of a committee', 'agenda');
  await setNoteStart(maren, { documentId: start, isStart: true });
  const crane = someone(places, 'Works/Slipway crane/Progress');
  const petra = someone(people, 'Petra Lindqvist-Hale');
  const meeting = await newNote(petra, crane, 'Meeting with the harbour users, 9 June', 'minutes');
  await writes(maren, meeting, [
    'The crane is out of use from 22 June to 3 July 2026; boats are lifted at the Ferry Stage.',
  ]);
  await writes(petra, meeting, ['The surveyor comes on 11 June and reports under W-26-01.']);
  await keepNote(maren, { documentId: meeting });
}

const newNote = async (actor: Actor, placeId: string, title: string, ready: ReadyStart): Promise<string> =>
  (await createNote(actor, { placeId, title, start: { ready } })).documentId;

/** Has someone add paragraphs at the end of a note, as their browser would. */
async function writes(actor: Actor, documentId: string, paragraphs: readonly string[]): Promise<void> {
  const { round, number, changes } = await beginNote(actor, { documentId });
  const text = new Y.Doc();
  for (const { change } of changes) Y.applyUpdate(text, Buffer.from(change, 'base64'));
  const typed: string[] = [];
  text.on('update', (update: Uint8Array) => typed.push(Buffer.from(update).toString('base64')));
  for (const words of paragraphs) {
    const paragraph = new Y.XmlElement('paragraph');
    paragraph.insert(0, [new Y.XmlText(words)]);
    text.getXmlFragment(noteField).push([paragraph]);
  }
  await writeNote(actor, { documentId, round, after: number, changes: typed });
}
