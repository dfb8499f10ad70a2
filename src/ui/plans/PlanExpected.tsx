'use client';

import { dueFroms, type Expectation } from '@/core/plans/expectation';
import type { PlanTiming } from '@/core/plans/namePattern';
import { exampleName, type PlannedFolder } from '@/core/plans/plan';
import { planDepth } from '@/core/plans/planEdit';
import { conditionsIn } from '@/core/views/conditions';
import { conditionsInWords } from '@/core/views/words';
import { useColumns } from '../columns/useColumns';
import { Button } from '../kit/button';
import { useLabels } from '../labels/useLabels';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { ConditionsBar } from '../views/ConditionsBar';
import { useConditionWords } from '../views/viewWords';
import { PlanPart } from './PlanPart';

const often: Record<PlanTiming, string> = { once: 'each dossier', year: 'each filing year', meeting: 'each meeting' };
const anchors: Record<PlanTiming, Record<Expectation['dueFrom'], string>> = {
  once: { start: 'the dossier started', end: 'the dossier started' },
  year: { start: 'the year’s first day', end: 'the year’s last day' },
  meeting: { start: 'the meeting', end: 'the meeting' },
};
const control = 'h-[30px] rounded-sm border border-edge bg-sheet px-1.5 text-sm';

const anotherExpected = (byYear: boolean): Expectation => ({
  id: crypto.randomUUID(),
  timing: byYear ? 'meeting' : 'once',
  name: '',
  folderId: null,
  conditions: [],
  dueDays: 14,
  dueFrom: 'start',
});

/** Which papers a plan expects: what each is, how it is known, where it is looked for, and when it is due. */
export function PlanExpected({
  seriesId,
  byYear,
  folders,
  expected,
  mayChange,
  wrongAt,
  wrong,
  onExpected,
}: {
  readonly seriesId: string;
  readonly byYear: boolean;
  readonly folders: readonly PlannedFolder[];
  readonly expected: readonly Expectation[];
  readonly mayChange: boolean;
  /** Which is at fault, from 0; -1 for none. */
  readonly wrongAt: number;
  readonly wrong: string;
  readonly onExpected: (expected: readonly Expectation[]) => void;
}) {
  const { library } = useSurroundings();
  const at = useAsk('views.at', { placeId: seriesId });
  const { columns: here, lexicons } = useColumns(seriesId);
  const columns = at.data?.columns ?? here;
  const labels = useLabels();
  const asked = [...new Set(expected.flatMap((each) => conditionsIn(each.conditions)).map((each) => each.of))];
  const { data } = useAsk(
    'view.open',
    {
      placeId: seriesId,
      below: true,
      filter: '',
      conditions: [],
      groupings: [],
      sorts: [],
      counts: asked,
      measures: [],
      start: 0,
      limit: 0,
    },
    { keepPrevious: true, untilCounted: true },
  );
  const counts = data?.counts ?? {};
  const words = useConditionWords(columns, lexicons, counts, labels, library);
  const put = (index: number, change: Partial<Expectation>) =>
    onExpected(expected.map((each, one) => (one === index ? { ...each, ...change } : each)));
  return (
    <PlanPart
      title="Expected papers"
      about="What must be there; what is not, once due, is a gap."
      act={
        mayChange && <Button onClick={() => onExpected([...expected, anotherExpected(byYear)])}>Expect a paper</Button>
      }
    >
      {expected.length === 0 && <p className="text-sm text-soft">Nothing so far.</p>}
      <ul>
        {expected.map((each, index) => {
          const inFolders = folders.filter((folder) => folder.timing === each.timing);
          const asks = conditionsInWords(each.conditions, words);
          if (!mayChange)
            return (
              <li key={each.id} className="border-b border-line py-1.5 last:border-0">
                <span className="font-medium">{each.name}</span>
                <span className="text-soft"> of {often[each.timing]}</span>
                {asks !== '' && <span className="block text-sm text-soft">{asks}</span>}
              </li>
            );
          const named = each.name || `expected paper ${index + 1}`;
          return (
            <li key={each.id} className="space-y-1.5 border-b border-line py-2 last:border-0">
              <div className="flex flex-wrap items-center gap-2 text-sm text-soft">
                <input
                  aria-label={`Name of expected paper ${index + 1}`}
                  aria-invalid={index === wrongAt || undefined}
                  value={each.name}
                  maxLength={120}
                  autoFocus={each.name === ''}
                  placeholder="Signed minutes"
                  onChange={(event) => put(index, { name: event.target.value })}
                  className={`h-[30px] min-w-40 flex-1 rounded-sm border bg-sheet px-2 text-base text-ink ${index === wrongAt ? 'border-ember' : 'border-edge'}`}
                />
                <label className="flex items-center gap-1.5">
                  of
                  <select
                    aria-label={`How often ${named} is expected`}
                    value={each.timing}
                    onChange={(event) => {
                      const timing = event.target.value as PlanTiming;
                      put(index, { timing, folderId: null, dueFrom: timing === 'year' ? 'end' : 'start' });
                    }}
                    className={`${control} text-ink`}
                  >
                    {Object.entries(often)
                      .filter(([timing]) => byYear || timing === 'once')
                      .map(([timing, text]) => (
                        <option key={timing} value={timing}>
                          {text}
                        </option>
                      ))}
                  </select>
                </label>
                <Button
                  look="quiet"
                  aria-label={`Remove ${named}`}
                  onClick={() => onExpected(expected.filter((one) => one !== each))}
                >
                  Remove
                </Button>
              </div>
              <div className="flex flex-wrap items-center gap-1.5 text-sm">
                <span className="text-soft">Known by</span>
                <ConditionsBar
                  columns={columns}
                  counts={counts}
                  words={words}
                  conditions={each.conditions}
                  onConditions={(conditions) => put(index, { conditions })}
                  withTitle
                />
              </div>
              <div className="flex flex-wrap items-center gap-1.5 text-sm text-soft">
                <label className="flex items-center gap-1.5">
                  Looked for in
                  <select
                    aria-label={`Where ${named} is looked for`}
                    value={each.folderId ?? ''}
                    onChange={(event) => put(index, { folderId: event.target.value || null })}
                    className={`${control} max-w-52 text-ink`}
                  >
                    <option value="">anywhere in {often[each.timing]}</option>
                    {inFolders.map((folder) => {
                      const name = exampleName(folder.pattern, folder.timing);
                      return (
                        <option key={folder.id} value={folder.id}>
                          {`${'  '.repeat(planDepth(folders, folder.id))}${name.ok ? name.value : folder.pattern}`}
                        </option>
                      );
                    })}
                  </select>
                </label>
                <span>· due</span>
                <input
                  type="number"
                  aria-label={`Days until ${named} is due`}
                  value={Math.abs(each.dueDays)}
                  min={0}
                  max={1000}
                  onChange={(event) =>
                    put(index, {
                      dueDays: Math.sign(each.dueDays || 1) * Math.min(1000, Math.abs(Number(event.target.value) || 0)),
                    })
                  }
                  className={`${control} w-16 text-ink`}
                />
                <select
                  aria-label={`Before or after, for ${named}`}
                  value={each.dueDays < 0 ? 'before' : 'after'}
                  onChange={(event) =>
                    put(index, { dueDays: Math.abs(each.dueDays) * (event.target.value === 'before' ? -1 : 1) })
                  }
                  className={`${control} text-ink`}
                >
                  <option value="after">days after</option>
                  <option value="before">days before</option>
                </select>
                {each.timing === 'year' ? (
                  <select
                    aria-label={`From which day ${named} is reckoned`}
                    value={each.dueFrom}
                    onChange={(event) =>
                      put(index, { dueFrom: dueFroms.find((one) => one === event.target.value) ?? 'end' })
                    }
                    className={`${control} text-ink`}
                  >
                    {dueFroms.map((from) => (
                      <option key={from} value={from}>
                        {anchors.year[from]}
                      </option>
                    ))}
                  </select>
                ) : (
                  <span>{anchors[each.timing].start}</span>
                )}
              </div>
              {index === wrongAt && each.name !== '' && <p className="text-sm text-ember-ink">{wrong}</p>}
            </li>
          );
        })}
      </ul>
    </PlanPart>
  );
}
