'use client';

import { useState } from 'react';
import type { AccessOn, AccessSheet as Sheet, SheetLine, SubjectChoice } from '@/core/access/contract';
import { capabilities, listOf, setOf, type CapabilitySet } from '@/core/access/capability';
import { subjectKey } from '@/core/access/resolve';
import { pressed } from '@/core/access/sheetLine';
import { capabilityWords, listInWords, sheetInWords } from '@/core/access/words';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { DialogActs } from '../kit/dialog';
import { LongField } from '../kit/field';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { AddToSheet } from './AddToSheet';
import { ImpactLines } from './ImpactLines';
import { LineAbove, LineHere, type Line } from './SheetRows';
import { WhoSees } from './WhoSees';

const asLine = (line: SheetLine): Line => ({
  ...line,
  gives: setOf(line.gives),
  withholds: line.withholds.reduce((set, each) => set | (1 << capabilities.indexOf(each)), 0),
});
const asGrants = (lines: readonly Line[]) =>
  lines.map(({ subject, gives, withholds }) => ({ subject, gives: listOf(gives), withholds: listOf(withholds) }));
const asText = (follows: boolean, lines: readonly Line[]) =>
  JSON.stringify([follows, asGrants(lines).filter((each) => each.gives.length + each.withholds.length > 0)]);

/** The editor of an access sheet: inherited lines, own lines, the effects of saving, and everyone who has access. */
export function AccessSheet({
  on,
  sheet,
  onClose,
}: {
  readonly on: AccessOn;
  readonly sheet: Sheet;
  readonly onClose: () => void;
}) {
  const given = sheet.lines.filter((line) => line.fromName === null).map(asLine);
  const above = sheet.lines.filter((line) => line.fromName !== null).map(asLine);
  const [lines, setLines] = useState(given);
  const [follows, setFollows] = useState(sheet.follows);
  const changed = asText(sheet.follows, given) !== asText(follows, lines);
  const speaking = follows ? above : [];
  const keepers = sheet.people.filter((each) => each.keeper).map((each) => each.name);

  function add(choices: readonly SubjectChoice[], gives: CapabilitySet) {
    const there = new Set(lines.map((line) => subjectKey(line.subject)));
    const fresh = choices.filter((choice) => !there.has(subjectKey(choice.subject)));
    setLines([
      ...lines,
      ...fresh.map((choice): Line => ({
        ...choice,
        memberCount: null,
        gives,
        withholds: 0,
        fromName: null,
      })),
    ]);
  }

  const words = sheetInWords([...speaking, ...lines]);
  return (
    <>
      {sheet.parentName !== null && (
        <div className="mb-3">
          <Following parentName={sheet.parentName} follows={follows} onChange={setFollows} />
        </div>
      )}
      <p className="mb-3" aria-label="In words">
        {words === '' ? 'Nobody comes in here besides keepers' : words}.{' '}
        <span className="text-soft">Keepers manage all: {keepers.join(', ')}.</span>
      </p>
      {sheet.openings.length > 0 && (
        <p className="mb-3">
          It is also filed in{' '}
          {listInWords(sheet.openings.map((name) => (name === null ? 'a place not open to you' : `“${name}”`)))}, and
          may be seen by those who can open {sheet.openings.length === 1 ? 'that place' : 'those places'}.
        </p>
      )}
      <div className="overflow-x-auto">
        <table className="w-full min-w-[520px] border-collapse text-left">
          <thead>
            <tr className="border-b border-line text-sm text-soft">
              <th scope="col" className="py-1.5 font-condensed">
                Person or group
              </th>
              {capabilities.map((each) => (
                <th key={each} scope="col" className="w-[72px] text-center font-condensed first-letter:uppercase">
                  {capabilityWords[each]}
                </th>
              ))}
              <th scope="col" className="w-[84px]">
                <span className="sr-only">Take off the sheet</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {speaking.map((line) => (
              <LineAbove key={`${line.fromName}-${subjectKey(line.subject)}`} line={line} />
            ))}
            {lines.map((line) => {
              const key = subjectKey(line.subject);
              const was = given.find((each) => subjectKey(each.subject) === key);
              return (
                <LineHere
                  key={key}
                  line={line}
                  saved={was?.gives === line.gives && was.withholds === line.withholds}
                  onPress={(capability) =>
                    setLines(lines.map((each) => (each === line ? { ...line, ...pressed(line, capability) } : each)))
                  }
                  onRemove={() => setLines(lines.filter((each) => each !== line))}
                />
              );
            })}
            {speaking.length + lines.length === 0 && (
              <tr>
                <td colSpan={capabilities.length + 2} className="py-4 text-soft">
                  Nobody besides the keepers yet. Add a person or a group below.
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
      {lines.length > 0 && (
        <p className="mt-1.5 text-sm text-soft">Click a box to give, to withhold, or to leave it unset.</p>
      )}
      <AddToSheet on={on} onAdd={add} />
      {changed ? (
        <IfSaved
          on={on}
          sheet={sheet}
          follows={follows}
          lines={lines}
          newcomers={lines.some(
            (line) => line.gives !== 0 && !given.some((each) => subjectKey(each.subject) === subjectKey(line.subject)),
          )}
          onLeave={() => {
            setLines(given);
            setFollows(sheet.follows);
          }}
          onClose={onClose}
        />
      ) : (
        <WhoSees on={on} people={sheet.people} />
      )}
    </>
  );
}

function Following({
  parentName,
  follows,
  onChange,
}: {
  readonly parentName: string;
  readonly follows: boolean;
  readonly onChange: (follows: boolean) => void;
}) {
  const choice = (value: boolean, words: string) => (
    <label
      className={`flex h-[30px] cursor-pointer items-center px-3 has-focus-visible:outline-2 ${
        follows === value ? 'bg-brine text-on-brine' : 'hover:bg-brine-wash'
      }`}
    >
      <input
        type="radio"
        name="follows"
        checked={follows === value}
        onChange={() => onChange(value)}
        className="sr-only"
      />
      {words}
    </label>
  );
  return (
    <fieldset>
      <legend className="sr-only">Where access starts from</legend>
      <div className="inline-flex max-w-full flex-wrap overflow-hidden rounded-sm border border-line">
        {choice(true, `Follows ${parentName}`)}
        {choice(false, 'Stands alone')}
      </div>
      {!follows && (
        <p className="mt-1 text-sm text-soft">
          Only what is said here counts. What is said in {parentName} does not reach it.
        </p>
      )}
    </fieldset>
  );
}

function IfSaved({
  on,
  sheet,
  follows,
  lines,
  newcomers,
  onLeave,
  onClose,
}: {
  readonly on: AccessOn;
  readonly sheet: Sheet;
  readonly follows: boolean;
  readonly lines: readonly Line[];
  readonly newcomers: boolean;
  readonly onLeave: () => void;
  readonly onClose: () => void;
}) {
  const [message, setMessage] = useState<string | null>(null);
  const save = useAct('access.set', { quiet: true });
  const undo = useAct('access.undo');
  const grants = asGrants(lines);
  const forecast = useAsk('access.forecast', { on, follows, grants }, { keepPrevious: true });
  const touched = new Set(forecast.data?.flatMap((line) => line.names)).size;

  function put() {
    save.mutate(
      { on, follows, grants, revision: sheet.revision, message: newcomers ? message : null },
      {
        onSuccess: ({ entryId, untold }) => {
          onClose();
          if (untold.length > 0)
            say.refusal(
              `The sheet is saved. The message could not be sent to ${untold.join(', ')}; tell them yourself.`,
            );
          const words = `Who can open “${sheet.name}” is saved`;
          if (entryId === null) say.done(words);
          else say.undoable(words, () => undo.mutate({ entryId }));
        },
      },
    );
  }

  return (
    <section aria-label="If you save this" className="mt-4 rounded-sm border border-ember bg-ember-wash px-4 py-3">
      <h3 className="font-condensed">If you save this</h3>
      <ImpactLines lines={forecast.data} />
      {message !== null && newcomers && (
        <div className="mt-2">
          <LongField
            label="To those who are new here"
            help="Goes to them by mail, with the way to it and what they may do."
            value={message}
            maxLength={2000}
            onChange={(event) => setMessage(event.target.value)}
          />
        </div>
      )}
      {save.error && (
        <p role="alert" className="mt-2 text-ember-ink">
          {saysOf(save.error)}
        </p>
      )}
      {forecast.error && (
        <p role="alert" className="mt-2 text-ember-ink">
          {saysOf(forecast.error)}
        </p>
      )}
      <DialogActs>
        <Button look="main" disabled={save.isPending} onClick={put}>
          {touched === 0 ? 'Save who can open it' : `Save for ${counted(touched, 'person', 'people')}`}
        </Button>
        {newcomers && message === null && <Button onClick={() => setMessage('')}>Tell them, with a message…</Button>}
        <Button onClick={onLeave}>Cancel</Button>
      </DialogActs>
    </section>
  );
}
