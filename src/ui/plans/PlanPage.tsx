'use client';

import { Refusal } from '@/core/errors/refusal';
import { useEffect, useMemo, useState } from 'react';
import { nameParts, planTimings, type PlanTiming } from '@/core/plans/namePattern';
import type { PlanOf } from '@/core/plans/contract';
import { checkExpected } from '@/core/plans/expectation';
import { checkPlan } from '@/core/plans/plan';
import { addPlanned, fromReady } from '@/core/plans/planEdit';
import { readyPlans } from '@/core/plans/readyPlans';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { CheckField } from '../kit/field';
import { Link } from '../kit/link';
import { Menu } from '../kit/menu';
import { say } from '../kit/notice';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { PlanChanges } from './PlanChanges';
import { PlanExample } from './PlanExample';
import { PlanCommon } from './PlanCommon';
import { PlanExpected } from './PlanExpected';
import { PlanPart } from './PlanPart';
import { PlanTree } from './PlanTree';

const parts: Readonly<Record<PlanTiming, { title: string; about: string }>> = {
  once: { title: 'In every dossier', about: 'Made once.' },
  year: { title: 'In every filing year', about: 'Made in each year that is kept.' },
  meeting: { title: 'For every meeting', about: 'Made in the year in which the meeting falls.' },
};

/** A series' filing plan: the tree that is edited, beside it an example dossier and what saving would change. */
export function PlanPage({ seriesId, name }: { readonly seriesId: string; readonly name: string }) {
  const { data, error } = useAsk('plan.of', { seriesId });
  if (error) return <p className="p-6">{saysOf(error)}</p>;
  return (
    <main id="main" className="min-w-0 flex-1 overflow-y-auto px-6 py-5">
      <p className="text-sm">
        <Link href={`/place/${seriesId}`} className="text-brine-ink hover:underline">
          {name}
        </Link>
      </p>
      <h1 className="font-condensed text-xl">Filing plan</h1>
      <p className="mb-4 max-w-[720px] text-soft">
        The folders that every dossier of {name} gets by itself, and the papers that are expected of it
        {data?.byYear === false ? '.' : ': for each dossier, each filing year, each meeting.'}
      </p>
      {data ? (
        <Editor key={data.revision} seriesId={seriesId} plan={data} />
      ) : (
        <p aria-busy className="text-soft">
          Loading the plan…
        </p>
      )}
    </main>
  );
}

function Editor({ seriesId, plan }: { readonly seriesId: string; readonly plan: PlanOf }) {
  const [byYear, setByYear] = useState(plan.byYear);
  const [folders, setFolders] = useState(plan.folders);
  const [expected, setExpected] = useState(plan.expected);
  // Whether conditions speak of columns that are in use here is for the server to say.
  const checked = useMemo(() => {
    const sound = checkPlan({ byYear, folders });
    if (!sound.ok) return sound;
    return checkExpected(
      expected.map((each) => ({ ...each, conditions: [] })),
      sound.value,
      [],
    );
  }, [byYear, folders, expected]);
  const changed =
    byYear !== plan.byYear ||
    JSON.stringify(folders) !== JSON.stringify(plan.folders) ||
    JSON.stringify(expected) !== JSON.stringify(plan.expected);
  const settled = useSettled(folders);
  const forecast = useAsk(
    'plan.forecast',
    { seriesId, byYear, folders: [...settled] },
    { enabled: plan.mayChange && checkPlan({ byYear, folders: settled }).ok, keepPrevious: true },
  );
  const save = useAct('plan.set', { quiet: true });
  const wrong = checked.ok ? undefined : checked.issue.fields?.[0];
  const expectedWrongAt = Number(/^expected\.(?<at>\d+)/u.exec(wrong?.path ?? '')?.groups?.['at'] ?? -1);
  const wrongAt = Number(/^folders\.(?<at>\d+)/u.exec(wrong?.path ?? '')?.groups?.['at'] ?? -1);

  const add = (timing: PlanTiming, parentId: string | null) =>
    setFolders(addPlanned(folders, { id: crypto.randomUUID(), parentId, timing, pattern: '' }));

  /** Where there are no years, nothing is made or expected in them. */
  function fileByYear(next: boolean): void {
    setByYear(next);
    if (next) return;
    setFolders(folders.filter((folder) => folder.timing === 'once'));
    setExpected(expected.filter((each) => each.timing === 'once'));
  }

  return (
    <div className="grid grid-cols-[minmax(0,1fr)] items-start gap-6 lg:grid-cols-[minmax(0,1fr)_380px]">
      <div>
        {plan.mayChange && folders.length === 0 && (
          <div className="mb-4 flex flex-wrap items-center gap-3 rounded-sm border border-line bg-sheet px-4 py-3">
            <span className="flex-1">
              No folders are planned yet. Begin with a ready-made plan, or with one of your own.
            </span>
            <Menu
              label="Begin with…"
              acts={readyPlans.map((ready) => ({
                label: ready.name,
                act: () => {
                  setFolders(fromReady(ready.folders, () => crypto.randomUUID()));
                  setByYear(ready.folders.some((folder) => folder.timing !== 'once'));
                },
              }))}
            />
          </div>
        )}
        {plan.mayChange ? (
          <CheckField
            label="Filed by year"
            checked={byYear}
            onChange={fileByYear}
            help="Each dossier has a place for each filing year. Not for jobs, policies and the like, which run on over the years."
          />
        ) : (
          <p className="mb-3.5 text-soft">
            {byYear ? 'Dossiers are filed by year.' : 'Dossiers are not filed by year.'}
          </p>
        )}
        {planTimings
          .filter((timing) => byYear || timing === 'once')
          .map((timing) => (
            <PlanPart
              key={timing}
              title={parts[timing].title}
              about={parts[timing].about}
              act={plan.mayChange && <Button onClick={() => add(timing, null)}>Add a folder</Button>}
            >
              <PlanTree
                folders={folders}
                timing={timing}
                mayChange={plan.mayChange}
                wrongId={folders[wrongAt]?.id ?? null}
                wrong={wrong?.says ?? ''}
                onFolders={setFolders}
                onAddIn={(parentId) => add(timing, parentId)}
              />
            </PlanPart>
          ))}
        <PlanCommon seriesId={seriesId} folders={plan.folders} dossiers={plan.dossiers} mayChange={plan.mayChange} />
        <PlanExpected
          seriesId={seriesId}
          byYear={byYear}
          folders={folders}
          expected={expected}
          mayChange={plan.mayChange}
          wrongAt={expectedWrongAt}
          wrong={wrong?.says ?? ''}
          onExpected={setExpected}
        />
        {plan.mayChange && <Parts byYear={byYear} />}
      </div>
      <aside aria-label="Result" className="space-y-4">
        <PlanExample plan={checkPlan({ byYear, folders }).ok ? { byYear, folders } : plan} />
        {plan.mayChange && (
          <section aria-label="If you save this" className="rounded-sm border border-ember bg-ember-wash px-4 py-3">
            <h2 className="font-condensed">If you save this</h2>
            {checked.ok ? <PlanChanges forecast={forecast.data} /> : <p>{checked.issue.says}</p>}
            {save.error && (
              <p role="alert" className="mt-2 text-ember-ink">
                {(save.error instanceof Refusal && save.error.issue.fields?.[0]?.says) || saysOf(save.error)}
              </p>
            )}
            <div className="mt-3 flex gap-2">
              <Button
                look="main"
                disabled={!checked.ok || save.isPending || (!changed && nothing(forecast.data))}
                onClick={() =>
                  save.mutate(
                    { seriesId, byYear, folders: [...folders], expected, revision: plan.revision },
                    {
                      onSuccess: ({ counts }) =>
                        say.done(
                          counts.add + counts.rename + counts.remove === 0
                            ? 'The plan is saved'
                            : `The plan is saved: ${counted(counts.add, 'folder')} made, ${counts.rename} renamed, ${counts.remove} removed`,
                        ),
                    },
                  )
                }
              >
                {save.isPending ? 'Making the folders…' : 'Save the plan'}
              </Button>
              {changed && (
                <Button
                  onClick={() => {
                    setByYear(plan.byYear);
                    setFolders(plan.folders);
                    setExpected(plan.expected);
                  }}
                >
                  Undo the changes
                </Button>
              )}
            </div>
          </section>
        )}
      </aside>
    </div>
  );
}

const nothing = (forecast: { readonly counts: Readonly<Record<string, number>> } | undefined): boolean =>
  forecast === undefined || Object.entries(forecast.counts).every(([what, count]) => what === 'closed' || count === 0);

/** What was typed, once typing has paused: not every letter is worth a look at all dossiers. */
function useSettled<T>(value: T): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), 350);
    return () => clearTimeout(timer);
  }, [value]);
  return settled;
}

/** The parts that a name knows. */
function Parts({ byYear }: { readonly byYear: boolean }) {
  return (
    <details className="text-sm">
      <summary className="cursor-pointer text-brine-ink">What a name can be made of</summary>
      <dl className="mt-2 grid grid-cols-[max-content_minmax(0,1fr)] gap-x-4 gap-y-1">
        {planTimings
          .filter((timing) => byYear || timing === 'once')
          .flatMap((timing) =>
            Object.entries(nameParts[timing]).map(([part, about]) => (
              <div key={part} className="contents">
                <dt className="font-mono">{`{${part}}`}</dt>
                <dd className="text-soft">
                  {about}
                  {timing !== 'once' && `; ${parts[timing].title.toLowerCase()}`}
                </dd>
              </div>
            )),
          )}
      </dl>
    </details>
  );
}
