'use client';

import { useState } from 'react';
import { exampleName, type PlannedFolder } from '@/core/plans/plan';
import { commonInWords, inDossier } from '@/core/places/common';
import { counted } from '@/core/text/measure';
import { Link } from '../kit/link';
import { NameDialog } from '../forms/NameDialog';
import { Button } from '../kit/button';
import { saysOf } from '../server/call';
import { useAct, useAsk } from '../server/useCall';
import { PlanPart } from './PlanPart';

/** The folders that are kept once for all dossiers of a series, and where in each they are seen. */
export function PlanCommon({
  seriesId,
  folders,
  dossiers,
  mayChange,
}: {
  readonly seriesId: string;
  /** Those of the plan as it stands. */
  readonly folders: readonly PlannedFolder[];
  readonly dossiers: number;
  readonly mayChange: boolean;
}) {
  const { data, error } = useAsk('common.of', { seriesId });
  const move = useAct('common.seenIn');
  const create = useAct('folder.create', { quiet: true });
  const [making, setMaking] = useState(false);
  const holders = folders.filter((each) => each.timing === 'once');
  const nameOf = (folder: PlannedFolder): string => {
    const name = exampleName(folder.pattern, 'once');
    return name.ok ? name.value : folder.pattern;
  };
  const seenIn = (folderId: string): string => {
    const holder = holders.find((each) => each.id === folderId);
    return holder ? nameOf(holder) : 'the dossier itself';
  };
  return (
    <PlanPart
      title="Kept once for all dossiers"
      about={`${commonInWords(dossiers)}; their papers count once`}
      act={mayChange && <Button onClick={() => setMaking(true)}>Add a common folder</Button>}
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {data?.length === 0 && <p className="text-sm text-soft">Nothing so far.</p>}
      <ul>
        {data?.map((each) => (
          <li key={each.id} className="flex flex-wrap items-center gap-x-3 py-1">
            <Link href={`/place/${each.id}`} className="min-w-40 flex-1 font-medium break-words hover:underline">
              {each.name}
            </Link>
            <span className="figures text-sm text-soft">{counted(each.paperCount, 'paper')}</span>
            {mayChange ? (
              <label className="flex items-center gap-2 text-sm text-soft">
                seen in
                <select
                  aria-label={`Where “${each.name}” is seen`}
                  value={holders.some((holder) => holder.id === each.seenIn) ? each.seenIn : inDossier}
                  onChange={(event) => move.mutate({ placeId: each.id, seenIn: event.target.value })}
                  className="h-[32px] rounded-sm border border-edge bg-sheet px-2 text-ink"
                >
                  <option value={inDossier}>{seenIn(inDossier)}</option>
                  {holders.map((holder) => (
                    <option key={holder.id} value={holder.id}>
                      {nameOf(holder)}
                    </option>
                  ))}
                </select>
              </label>
            ) : (
              <span className="text-sm text-soft">seen in {seenIn(each.seenIn)}</span>
            )}
          </li>
        ))}
      </ul>
      {making && (
        <NameDialog
          title="New common folder"
          label="Name"
          help="Kept once, at the series, and seen in every dossier of it."
          act="Make the common folder"
          onClose={() => setMaking(false)}
          onSave={(name) => create.mutateAsync({ parentId: seriesId, name, common: true })}
        />
      )}
    </PlanPart>
  );
}
