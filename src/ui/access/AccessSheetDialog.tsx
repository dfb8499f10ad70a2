'use client';

import { Command } from 'cmdk';
import { useDeferredValue, useState } from 'react';
import type { AccessSheet, SheetLine } from '@/core/access/contract';
import {
  capabilities,
  closed,
  has,
  listOf,
  readySets,
  setOf,
  type Capability,
  type ReadySet,
} from '@/core/access/capability';
import { capabilityWords, openToWords, setInWords } from '@/core/access/words';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';

/** Who may open a place, and what each may do there. */
export function AccessSheetDialog({ placeId, onClose }: { readonly placeId: string; readonly onClose: () => void }) {
  const { data, error } = useAsk('access.sheet', { placeId });
  return (
    <Dialog
      title={`Who can open “${data?.placeName ?? '…'}”`}
      {...(data
        ? { about: `${openToWords(data.openTo.length)} · ${counted(data.paperCount, 'paper')} here and below` }
        : {})}
      open
      onClose={onClose}
      shape="sheet"
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && <Sheet key={data.revision} placeId={placeId} sheet={data} onClose={onClose} />}
    </Dialog>
  );
}

const keyOf = ({ subject }: Pick<SheetLine, 'subject'>): string =>
  subject.kind === 'everyone' ? 'everyone' : subject.id;
const asGrants = (lines: readonly SheetLine[]) =>
  lines.map(({ subject, capabilities: may }) => ({ subject, capabilities: [...may] }));

function Sheet({
  placeId,
  sheet,
  onClose,
}: {
  readonly placeId: string;
  readonly sheet: AccessSheet;
  readonly onClose: () => void;
}) {
  const given = sheet.lines.filter((line) => line.fromName === null);
  const above = sheet.lines.filter((line) => line.fromName !== null);
  const [lines, setLines] = useState(given);
  const [as, setAs] = useState<ReadySet>('reader');
  const save = useAct('access.set', { quiet: true });
  const before = JSON.stringify(asGrants(given));
  const after = JSON.stringify(asGrants(lines));
  const changed = before !== after;
  const forecast = useAsk(
    'access.forecast',
    { placeId, grants: asGrants(lines) },
    { enabled: changed, keepPrevious: true },
  );

  function toggle(key: string, capability: Capability) {
    setLines(
      lines.map((line) => {
        if (keyOf(line) !== key) return line;
        const held = setOf(line.capabilities);
        if (!has(held, capability)) return { ...line, capabilities: listOf(closed(held | setOf([capability]))) };
        // Without "see" nothing is left; without anything else, "manage" goes too.
        const rest =
          capability === 'see' ? [] : line.capabilities.filter((each) => each !== capability && each !== 'manage');
        return { ...line, capabilities: rest };
      }),
    );
  }

  return (
    <>
      <p className="mb-3">
        {sheet.parentName === null
          ? 'Starts from nothing: only keepers come in besides those below.'
          : `Follows ${sheet.parentName}, and adds what is given here.`}{' '}
        <span className="text-soft">Keepers manage all: {sheet.keepers.join(', ')}.</span>
      </p>
      <table className="w-full border-collapse text-left">
        <thead>
          <tr className="border-b border-line text-sm text-soft">
            <th scope="col" className="py-1.5 font-condensed">
              Person or group
            </th>
            {capabilities.map((each) => (
              <th key={each} scope="col" className="w-[74px] text-center font-condensed first-letter:uppercase">
                {capabilityWords[each]}
              </th>
            ))}
            <th scope="col" className="w-[70px]">
              <span className="sr-only">Take away</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {above.map((line) => (
            <Line key={`${line.fromName}-${keyOf(line)}`} line={line} about={`from ${line.fromName}`} />
          ))}
          {lines.map((line) => {
            const was = given.find((each) => keyOf(each) === keyOf(line));
            const same = was !== undefined && setOf(was.capabilities) === setOf(line.capabilities);
            return (
              <Line
                key={keyOf(line)}
                line={line}
                about={same ? 'given here' : 'not yet saved'}
                onToggle={(capability) => toggle(keyOf(line), capability)}
                onRemove={() => setLines(lines.filter((each) => each !== line))}
              />
            );
          })}
          {above.length + lines.length === 0 && (
            <tr>
              <td colSpan={capabilities.length + 2} className="py-4 text-soft">
                Nobody besides the keepers yet. Add a person or a group below.
              </td>
            </tr>
          )}
        </tbody>
      </table>
      <div className="mt-3 flex gap-2">
        <SubjectChooser
          placeId={placeId}
          onChoose={(choice) => {
            if (lines.some((line) => keyOf(line) === keyOf(choice))) return;
            setLines([...lines, { ...choice, memberCount: null, capabilities: listOf(readySets[as]), fromName: null }]);
          }}
        />
        <select
          aria-label="Add them as"
          value={as}
          onChange={(event) => setAs(readySetFrom(event.target.value))}
          className="h-[34px] w-[210px] rounded-sm border border-edge bg-sheet px-2"
        >
          {Object.entries(readySets).map(([name, set]) => (
            <option key={name} value={name}>
              As {name}: {setInWords(set)}
            </option>
          ))}
        </select>
      </div>
      {changed && (
        <section aria-label="If you save this" className="mt-5 rounded-sm border border-ember bg-ember-wash px-4 py-3">
          <h3 className="font-condensed">If you save this</h3>
          <div role="status">
            {forecast.data?.gaining.map((name) => (
              <p key={name}>
                <strong>{name}</strong> will see {counted(sheet.paperCount, 'paper')} here and below.
              </p>
            ))}
            {forecast.data?.losing.map((name) => (
              <p key={name}>
                <strong>{name}</strong> will no longer see{' '}
                {sheet.paperCount === 1 ? 'it' : `these ${counted(sheet.paperCount, 'paper')}`}, save where a folder
                below says otherwise.
              </p>
            ))}
            {forecast.data && forecast.data.gaining.length + forecast.data.losing.length === 0 && (
              <p className="text-soft">Nobody gains or loses sight of anything; what they may do changes.</p>
            )}
          </div>
          {save.error && (
            <p role="alert" className="mt-2 text-ember-ink">
              {saysOf(save.error)}
            </p>
          )}
          <DialogActs>
            <Button
              look="main"
              disabled={save.isPending}
              onClick={() =>
                save.mutate(
                  { placeId, revision: sheet.revision, grants: asGrants(lines) },
                  {
                    onSuccess: () => {
                      say.done(`Who can open “${sheet.placeName}” is saved`);
                      onClose();
                    },
                  },
                )
              }
            >
              Save who can open it
            </Button>
            <Button onClick={() => setLines(given)}>Leave as it was</Button>
          </DialogActs>
        </section>
      )}
    </>
  );
}

const readySetFrom = (text: string): ReadySet =>
  text === 'contributor' || text === 'officer' || text === 'manager' ? text : 'reader';

function Line({
  line,
  about,
  onToggle,
  onRemove,
}: {
  readonly line: SheetLine;
  readonly about: string;
  readonly onToggle?: (capability: Capability) => void;
  readonly onRemove?: () => void;
}) {
  const held = setOf(line.capabilities);
  return (
    <tr className={`border-b border-line ${about === 'not yet saved' ? 'bg-ember-wash' : ''}`}>
      <th scope="row" className="py-1.5 font-normal">
        <span className="block font-medium">{line.name}</span>
        <span className={`text-sm ${about === 'not yet saved' ? 'font-semibold text-ember-ink' : 'text-soft'}`}>
          {line.memberCount !== null && `group of ${line.memberCount} · `}
          {about}
        </span>
      </th>
      {capabilities.map((each) => (
        <td key={each} className="text-center">
          <input
            type="checkbox"
            aria-label={`${line.name} may ${capabilityWords[each]}`}
            checked={has(held, each)}
            disabled={!onToggle}
            onChange={() => onToggle?.(each)}
            className="size-4 accent-brine"
          />
        </td>
      ))}
      <td className="text-right">
        {onRemove && (
          <Button look="quiet" className="!px-1" aria-label={`Take away ${line.name}`} onClick={onRemove}>
            Take away
          </Button>
        )}
      </td>
    </tr>
  );
}

function SubjectChooser({
  placeId,
  onChoose,
}: {
  readonly placeId: string;
  readonly onChoose: (choice: Pick<SheetLine, 'subject' | 'name'>) => void;
}) {
  const [words, setWords] = useState('');
  const asked = useDeferredValue(words);
  const { data } = useAsk(
    'access.choices',
    { placeId, words: asked },
    { enabled: asked.trim() !== '', keepPrevious: true },
  );
  return (
    <Command shouldFilter={false} label="Add a person or a group" className="relative flex-1">
      <Command.Input
        value={words}
        onValueChange={setWords}
        placeholder="Add a person or a group: part of the name or address"
        className="h-[34px] w-full rounded-sm border border-edge bg-sheet px-2.5 placeholder:text-soft"
      />
      <Command.List
        hidden={words.trim() === ''}
        className="absolute z-20 mt-1 max-h-60 w-full overflow-y-auto rounded-sm border border-line bg-sheet p-1 shadow-md"
      >
        {words.trim() !== '' && (
          <>
            <Command.Empty className="px-2 py-2 text-sm text-soft">Nobody goes by that name here.</Command.Empty>
            {data?.map((choice) => (
              <Command.Item
                key={keyOf(choice)}
                value={keyOf(choice)}
                onSelect={() => {
                  onChoose(choice);
                  setWords('');
                }}
                className="cursor-pointer rounded-sm px-2 py-1 data-[selected=true]:bg-brine-wash"
              >
                {choice.name} <span className="text-sm text-soft">{choice.about}</span>
              </Command.Item>
            ))}
          </>
        )}
      </Command.List>
    </Command>
  );
}
