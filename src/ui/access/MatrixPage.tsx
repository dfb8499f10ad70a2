'use client';

import { useState } from 'react';
import type { AccessMatrix } from '@/core/access/contract';
import { matrixViews, remarkWords, setInShort, type MatrixView } from '@/core/access/matrix';
import { setInWords } from '@/core/access/words';
import { counted } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { downloadCsv } from '../kit/downloadCsv';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { AccessSheetDialog } from './AccessSheetDialog';

type Who = 'people' | 'groups' | 'outside';
const whoWords: Record<Who, string> = {
  people: 'People',
  groups: 'Groups',
  outside: 'People outside the organisation',
};
const viewWords: Record<MatrixView, string> = {
  differences: 'Places with a sheet of their own',
  alone: 'Places that stand alone',
  unusual: 'What is unusual',
  all: 'All places',
};
const isWho = (text: string): text is Who => text in whoWords;
const isView = (text: string): text is MatrixView => matrixViews.some((each) => each === text);

/** The access matrix: places by people, or everything that one person may see. */
export function MatrixPage({ placeId, personId }: { readonly placeId: string; readonly personId: string | null }) {
  const [who, setWho] = useState<Who>('people');
  const [show, setShow] = useState<MatrixView>(personId === null ? 'differences' : 'all');
  const [sheet, setSheet] = useState<string | null>(null);
  const { data, error } = useAsk('access.matrix', { placeId, who, personId, show }, { keepPrevious: true });
  if (error) return <p className="p-6">{saysOf(error)}</p>;
  const [only] = data?.subjects ?? [];
  return (
    <main id="main" className="flex min-w-0 flex-1 flex-col overflow-hidden px-6 pt-5">
      <div className="mb-3 flex flex-wrap items-end gap-3">
        <div className="mr-auto">
          <h1 className="font-condensed text-xl">
            {personId === null ? 'Who sees what' : `All that ${only?.name ?? '…'} may see`}
          </h1>
          <p className="text-sm text-soft">
            {data && `${data.name} · ${data.rows.length} of ${counted(data.places, 'place')} shown`}
            {personId === null && ' · keepers manage all, and have no column'}
          </p>
        </div>
        {personId === null && (
          <Choice label="Of whom" value={who} words={whoWords} onChange={(next) => isWho(next) && setWho(next)} />
        )}
        <Choice
          label="Which places"
          value={show}
          words={viewWords}
          onChange={(next) => isView(next) && setShow(next)}
        />
        <Button disabled={!data} onClick={() => data && download(data)}>
          Download as CSV
        </Button>
      </div>
      <div className="min-h-0 flex-1 overflow-auto border border-line bg-sheet">
        {data && <Table matrix={data} onSheet={setSheet} />}
      </div>
      {sheet !== null && <AccessSheetDialog on={{ kind: 'place', id: sheet }} onClose={() => setSheet(null)} />}
    </main>
  );
}

function Choice({
  label,
  value,
  words,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly words: Readonly<Record<string, string>>;
  readonly onChange: (value: string) => void;
}) {
  return (
    <label className="text-sm text-soft">
      {label}
      <select
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="block h-[30px] rounded-sm border border-edge bg-sheet px-2 text-base text-ink"
      >
        {Object.entries(words).map(([key, text]) => (
          <option key={key} value={key}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

const sticky = 'sticky left-0 z-10 bg-sheet';

function Table({ matrix, onSheet }: { readonly matrix: AccessMatrix; readonly onSheet: (id: string) => void }) {
  const { rows, subjects } = matrix;
  if (subjects.length === 0) return <p className="p-4 text-soft">There is nobody to show.</p>;
  if (rows.length === 0) return <p className="p-4 text-soft">No places match.</p>;
  const top = Math.min(...rows.map((row) => row.depth));
  return (
    <table className="border-collapse text-left">
      <thead>
        <tr className="border-b border-line">
          <th
            scope="col"
            className={`sticky top-0 z-20 min-w-[210px] px-3 sm:min-w-[300px] py-2 font-condensed ${sticky}`}
          >
            Place
          </th>
          {subjects.map((subject) => (
            <th
              key={subject.id}
              scope="col"
              className="sticky top-0 z-10 w-[112px] min-w-[112px] bg-sheet px-2 py-2 align-bottom font-condensed leading-tight font-medium"
            >
              {subject.name}
              {subject.outside && <span className="block text-sm font-normal text-soft">outside</span>}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.id} className="border-b border-line hover:bg-fog">
            <th scope="row" className={`px-3 py-1 font-normal ${sticky}`}>
              <span className="flex items-baseline gap-2" style={{ paddingLeft: (row.depth - top) * 16 }}>
                {row.reference && <span className="font-mono text-sm text-soft">{row.reference}</span>}
                <Link href={`/place/${row.id}`} className={`hover:underline ${row.says ? 'font-medium' : 'text-soft'}`}>
                  {row.name}
                </Link>
                {row.kind !== 'library' && (
                  <Button
                    look="quiet"
                    className="ml-auto !h-[22px] !px-1"
                    aria-label={`Who can open ${row.name}`}
                    onClick={() => onSheet(row.id)}
                  >
                    Sheet
                  </Button>
                )}
              </span>
              {row.remarks.length + row.papersApart > 0 && (
                <span className="block text-sm text-ember-ink" style={{ paddingLeft: (row.depth - top) * 16 }}>
                  {[
                    ...row.remarks.map((each) => remarkWords[each]),
                    ...(row.papersApart === 0
                      ? []
                      : [
                          `${counted(row.papersApart, 'paper')} with a say of ${row.papersApart === 1 ? 'its' : 'their'} own`,
                        ]),
                  ].join(' · ')}
                </span>
              )}
            </th>
            {row.sets.map((set, at) => (
              <td
                key={subjects[at]?.id}
                title={`${subjects[at]?.name ?? ''} ${setInWords(set)} in ${row.name}`}
                className="px-2 text-sm"
              >
                {set === 0 ? (
                  <span className="text-soft" aria-label="may do nothing">
                    –
                  </span>
                ) : (
                  <span className="rounded-sm bg-brine-wash px-1.5 py-0.5 text-brine-ink">{setInShort(set)}</span>
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Downloads the table as shown, each place with its full path, so that a spreadsheet can sort it. */
function download({ name, subjects, rows }: AccessMatrix): void {
  const way: { readonly name: string; readonly depth: number }[] = [];
  const lines = rows.map((row) => {
    while ((way.at(-1)?.depth ?? -1) >= row.depth) way.pop();
    way.push(row);
    return [
      way.map((step) => step.name).join(' / '),
      row.reference ?? '',
      row.remarks.map((each) => remarkWords[each]).join(', '),
      ...row.sets.map(setInShort),
    ];
  });
  const head = ['Place', 'Reference', 'Remarkable', ...subjects.map((subject) => subject.name)];
  downloadCsv(`Who sees what in ${name}.csv`, [head, ...lines]);
}
