'use client';

import type { OutputOf } from '@/core/contract';
import { counted } from '@/core/text/measure';
import { Link } from '../kit/link';
import { BlockSheet, DeskBlock } from './Block';
import type { Frame } from './blockWords';

/** The series that are open to the person. */
export const SeriesList = ({
  frame,
  series,
}: {
  readonly frame: Frame;
  readonly series: OutputOf<'places.series'>;
}) => (
  <DeskBlock {...frame}>
    <BlockSheet>
      <ul>
        {series.map((each) => (
          <li key={each.id} className="border-b border-line last:border-0">
            <Link href={`/place/${each.id}`} className="flex items-center justify-between px-3 py-2 hover:bg-fog">
              <span className="font-medium">{each.name}</span>
              <span className="figures text-sm text-soft">{counted(each.paperCount, 'paper')}</span>
            </Link>
          </li>
        ))}
      </ul>
    </BlockSheet>
  </DeskBlock>
);
