'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { GroupRow, PersonRow } from '@/core/people/model';
import { momentInWords, dayInWords } from '@/core/calendar/moment';
import { counted } from '@/core/text/measure';
import { seeAs } from '../access/seeAs';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { NameDialog } from '../forms/NameDialog';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { DoorDialog } from './DoorDialog';
import { GroupDialog } from './GroupDialog';
import { InviteDialog } from '../invitations/InviteDialog';

type Open =
  | { kind: 'invite' }
  | { kind: 'newGroup' }
  | { kind: 'door' }
  | { kind: 'group'; group: GroupRow }
  | { kind: 'removeGroup'; group: GroupRow };

/** People, groups and open invitations; for keepers. */
export function PeoplePage() {
  const { data, error } = useAsk('people.list', {});
  const { timeZone, library } = useSurroundings();
  const [open, setOpen] = useState<Open | null>(null);
  const createGroup = useAct('group.create', { quiet: true });
  const removeGroup = useAct('group.remove');
  const close = () => setOpen(null);
  if (error) return <p className="p-6">{saysOf(error)}</p>;
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <h1 className="mr-auto font-condensed text-xl">People and groups</h1>
        <Link
          href={`/access/${library.rootId}`}
          className="inline-flex h-[30px] items-center rounded-sm border border-line bg-sheet px-3 whitespace-nowrap hover:border-edge"
        >
          Who sees what
        </Link>
        <Button onClick={() => setOpen({ kind: 'door' })}>Sign-in journal</Button>
        <Button onClick={() => setOpen({ kind: 'newGroup' })}>New group</Button>
        <Button look="main" onClick={() => setOpen({ kind: 'invite' })}>
          Invite someone
        </Button>
      </div>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-6 xl:grid-cols-[minmax(0,1fr)_380px]">
        <section aria-label="People" className="overflow-x-auto">
          <table className="w-full border border-line bg-sheet text-left">
            <thead>
              <tr className="border-b border-line text-sm text-soft">
                <th scope="col" className="px-3 py-2 font-condensed">
                  Name
                </th>
                <th scope="col" className="px-3 font-condensed">
                  Address
                </th>
                <th scope="col" className="px-3 font-condensed">
                  Groups
                </th>
                <th scope="col" className="px-3 font-condensed">
                  Status
                </th>
                <th scope="col" className="w-28">
                  <span className="sr-only">Acts</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {data?.people.map((person) => (
                <PersonLine key={person.id} person={person} />
              ))}
            </tbody>
          </table>
        </section>
        <div className="space-y-6">
          <section aria-label="Groups">
            <h2 className="mb-1.5 font-condensed">Groups</h2>
            {data?.groups.length === 0 && (
              <p className="text-soft">None yet. A group is given access once, for all who are in it.</p>
            )}
            <ul className="border border-line bg-sheet empty:hidden">
              {data?.groups.map((group) => (
                <li key={group.id} className="flex items-center gap-2 border-b border-line px-3 py-2 last:border-0">
                  <span className="min-w-0 flex-1">
                    <span className="block font-medium">{group.name}</span>
                    <span className="block text-sm text-soft">
                      {group.terms
                        .filter((term) => term.current)
                        .map((term) => (term.role === 'member' ? term.name : `${term.name} (${term.role})`))
                        .join(', ') || 'Nobody yet'}
                      {group.terms.some((term) => !term.current) &&
                        ` · ${counted(group.terms.filter((term) => !term.current).length, 'term')} past or to come`}
                    </span>
                  </span>
                  <Button
                    look="quiet"
                    aria-label={`See the library as ${group.name}`}
                    onClick={() => seeAs('group', group.id)}
                  >
                    See as
                  </Button>
                  <Button aria-label={`Change ${group.name}`} onClick={() => setOpen({ kind: 'group', group })}>
                    Change
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Remove ${group.name}`}
                    onClick={() => setOpen({ kind: 'removeGroup', group })}
                  >
                    Remove
                  </Button>
                </li>
              ))}
            </ul>
          </section>
          {data && data.invitations.length > 0 && (
            <section aria-label="Open invitations">
              <h2 className="mb-1.5 font-condensed">Open invitations</h2>
              <ul className="border border-line bg-sheet">
                {data.invitations.map((invitation) => (
                  <li key={invitation.id} className="border-b border-line px-3 py-2 last:border-0">
                    {invitation.name}, {invitation.email}{' '}
                    <span className="text-sm text-soft" title={momentInWords(invitation.expiresAt, timeZone)}>
                      until {dayInWords(invitation.expiresAt, timeZone)}
                    </span>
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
      </div>
      {open?.kind === 'door' && <DoorDialog onClose={close} />}
      {open?.kind === 'invite' && <InviteDialog onClose={close} />}
      {open?.kind === 'newGroup' && (
        <NameDialog
          title="New group"
          label="Name"
          act="Make the group"
          onClose={close}
          onSave={(name) => createGroup.mutateAsync({ name })}
        />
      )}
      {open?.kind === 'group' && (
        <GroupDialog group={open.group} people={data?.people ?? []} groups={data?.groups ?? []} onClose={close} />
      )}
      {open?.kind === 'removeGroup' && (
        <Dialog title={`Remove the group “${open.group.name}”`} open onClose={close}>
          <p>
            {counted(open.group.memberCount, 'person loses', 'people lose')} what is open to them through this group
            alone. No paper is affected.
          </p>
          <DialogActs>
            <Button onClick={close}>Cancel</Button>
            <Button
              look="main"
              onClick={() =>
                removeGroup.mutate(
                  { groupId: open.group.id },
                  {
                    onSuccess: () => {
                      say.done(`The group “${open.group.name}” is removed`);
                      close();
                    },
                  },
                )
              }
            >
              Remove the group
            </Button>
          </DialogActs>
        </Dialog>
      )}
    </main>
  );
}

const standingOf = ({ active, keeper, outside, twoStep }: PersonRow): string =>
  [
    ...(active ? [] : ['Turned off']),
    ...(keeper ? ['Keeper'] : []),
    ...(twoStep ? ['Two-step sign-in'] : []),
    ...(outside ? ['Outside the organisation'] : []),
  ].join(' · ');

function PersonLine({ person }: { readonly person: PersonRow }) {
  const { me, library } = useSurroundings();
  const router = useRouter();
  const setActive = useAct('person.setActive');
  const setKeeper = useAct('person.setKeeper');
  const setOutside = useAct('person.setOutside');
  const dropSecondStep = useAct('person.dropSecondStep');
  const personId = person.id;
  const acts = [
    ...(person.active && !person.keeper
      ? [
          {
            label: 'All that they may see',
            act: () => router.push(`/access/${library.rootId}?person=${personId}`),
          },
        ]
      : []),
    ...(person.active ? [{ label: 'See the library as they do', act: () => seeAs('person', personId) }] : []),
    person.keeper
      ? { label: 'Make them a keeper no longer', act: () => setKeeper.mutate({ personId, keeper: false }) }
      : { label: 'Make them a keeper', act: () => setKeeper.mutate({ personId, keeper: true }) },
    {
      label: person.outside ? 'They belong to the organisation' : 'They do not belong to the organisation',
      act: () => setOutside.mutate({ personId, outside: !person.outside }),
    },
    ...(person.twoStep
      ? [
          {
            label: 'Turn off two-step sign-in',
            act: () =>
              dropSecondStep.mutate(
                { personId },
                {
                  onSuccess: () =>
                    say.done(`${person.name} signs in with the password alone; all their sessions ended`),
                },
              ),
          },
        ]
      : []),
    person.active
      ? { label: 'Turn off the account', act: () => setActive.mutate({ personId, active: false }), apart: true }
      : { label: 'Turn on the account', act: () => setActive.mutate({ personId, active: true }), apart: true },
  ];
  return (
    <tr className={`border-b border-line last:border-0 ${person.active ? '' : 'text-soft'}`}>
      <th scope="row" className="px-3 py-2 font-medium">
        {person.name}
      </th>
      <td className="px-3">{person.email}</td>
      <td className="px-3 py-1.5 text-sm">{person.groups.join(', ')}</td>
      <td className="px-3 py-1.5 text-sm">{standingOf(person)}</td>
      <td className="px-2 text-right">
        {person.id === me.id ? (
          <span className="px-3 text-sm text-soft">You</span>
        ) : (
          <Menu label="More" name={`More about ${person.name}`} acts={acts} />
        )}
      </td>
    </tr>
  );
}
