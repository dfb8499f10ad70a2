import { beginAgenda } from '@/server/agenda/begin';
import { addItems } from '@/server/agenda/items';
import { agendaSheet } from '@/server/agenda/read';
import { meetingsOf } from '@/server/meetings/meetings';
import { agreeMinutes, beginMinutes, minutesOf } from '@/server/minutes/minutes';
import { noteAttendance, recordOutcome, settleAction } from '@/server/minutes/record';
import type { Actor } from '@/server/gate/actor';
import { agendaCommittees } from './agendas';
import { someone, type People, type Places } from './named';
import { keeper } from './people';

/** What an item of a meeting came to. */
interface Came {
  readonly item: string;
  readonly decision?: string;
  readonly action?: { readonly text: string; readonly who: string; readonly dueOn: string; readonly done?: true };
}

/** What the meetings of each committee came to: the last one first, then those before it. */
const cameTo: Readonly<Record<string, readonly (readonly Came[])[]>> = {
  'Full board': [
    [
      {
        item: 'Lighting of Marsh Quay',
        decision: 'The lamps of Marsh Quay are renewed this winter, at no more than 18,400 pounds.',
        action: {
          text: 'Ask three firms for the lamps of Marsh Quay',
          who: 'Ruari Blackwood',
          dueOn: '2026-12-04',
        },
      },
      {
        item: 'Any other business',
        action: {
          text: 'Write to the ferry company about its winter times',
          who: 'Idris Quaye',
          dueOn: '2026-11-20',
        },
      },
    ],
    [
      {
        item: 'Moorings at the Cockle Hard',
        decision: 'Moorings at the Cockle Hard are let by the season, and no longer by the month.',
        action: { text: 'Change the mooring form', who: 'Maren Tolliver', dueOn: '2026-10-30', done: true },
      },
      { item: 'Slipway', decision: 'The slipway stays free of charge for boats under five metres.' },
    ],
    [{ item: 'Harbour office hours', decision: 'The harbour office opens at seven from April to September.' }],
  ],
  'Finance & audit': [
    [
      {
        item: 'Reserves',
        decision: 'A quarter of a year’s running costs is kept in reserve.',
        action: {
          text: 'Show what the reserve comes to, month by month',
          who: 'Tobias Fenn',
          dueOn: '2026-12-01',
        },
      },
    ],
    [{ item: 'Auditor’s letter', decision: 'The auditor’s letter is answered as drafted.' }],
  ],
};

/** What the committees' last meetings came to, and the minutes of the last two: those before are agreed, the last are a draft. */
export async function layMinutes(people: People, places: Places, now: Date): Promise<void> {
  const maren = someone(people, keeper.name);
  const today = now.toISOString().slice(0, 10);
  for (const { name } of agendaCommittees) {
    const meetings = await meetingsOf(maren, { dossierId: someone(places, `Board & committees/${name}`) });
    const held = meetings.filter(({ day }) => day < today).reverse();
    for (const [at, items] of (cameTo[name] ?? []).entries()) {
      const meetingId = held[at]?.id;
      if (meetingId === undefined) throw new Error(`${name} has not met so often`);
      await record(maren, people, meetingId, items);
      await noteWho(maren, meetingId);
      const { found } = await minutesOf(maren, { meetingId });
      await beginMinutes(maren, { meetingId, documentId: found?.documentId ?? null });
      const [next] = at === 0 ? [] : [held[at - 1]];
      if (next) await agreeMinutes(maren, { meetingId, atMeetingId: next.id });
    }
  }
}

async function record(maren: Actor, people: People, meetingId: string, came: readonly Came[]): Promise<void> {
  const of = { meetingId };
  if ((await agendaSheet(maren, { of })).agenda === null) await beginAgenda(maren, { of });
  const { agenda, items } = await agendaSheet(maren, { of });
  for (const { item, decision, action } of came) {
    const there = items.find(({ title }) => title === item)?.id;
    const [itemId = ''] = there === undefined ? await add(maren, agenda?.id ?? '', item) : [there];
    const says = { itemId, personId: null, who: '', dueOn: null };
    if (decision !== undefined) await recordOutcome(maren, { ...says, kind: 'decision', text: decision });
    if (!action) continue;
    const { text, who, dueOn, done } = action;
    const { personId } = someone(people, who);
    const { outcomeId } = await recordOutcome(maren, { ...says, kind: 'action', text, personId, who, dueOn });
    if (done) await settleAction(maren, { outcomeId, done, remark: '' });
  }
}

const add = async (maren: Actor, agendaId: string, title: string): Promise<readonly string[]> =>
  (await addItems(maren, { agendaId, parentId: null, beforeId: null, titles: [title] })).itemIds;

/** All were there but the last of the list. */
async function noteWho(maren: Actor, meetingId: string): Promise<void> {
  const { attendees } = await agendaSheet(maren, { of: { meetingId } });
  const members = attendees.filter(({ part }) => part === 'member');
  const away = members.length > 2 ? members.at(-1)?.id : undefined;
  const people = attendees.map(({ id }) => ({
    attendeeId: id,
    presence: id === away ? ('apologies' as const) : ('present' as const),
  }));
  if (people.length > 0) await noteAttendance(maren, { meetingId, people });
}
