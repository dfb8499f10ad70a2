'use client';

import type { PlanTiming } from '@/core/plans/namePattern';
import { exampleName, type PlannedFolder } from '@/core/plans/plan';
import { planDepth, removePlanned, renamePlanned, shiftPlanned } from '@/core/plans/planEdit';
import { Button } from '../kit/button';
import { Menu } from '../kit/menu';

type Folders = readonly PlannedFolder[];

/** The planned folders that are made as often, as a tree of name fields. */
export function PlanTree({
  folders,
  timing,
  mayChange,
  wrongId,
  wrong,
  onFolders,
  onAddIn,
}: {
  readonly folders: Folders;
  readonly timing: PlanTiming;
  readonly mayChange: boolean;
  /** The folder at fault, and what is wrong with it. */
  readonly wrongId: string | null;
  readonly wrong: string;
  readonly onFolders: (folders: Folders) => void;
  readonly onAddIn: (parentId: string) => void;
}) {
  const mine = folders.filter((each) => each.timing === timing);
  if (mine.length === 0) return <p className="text-sm text-soft">Nothing so far.</p>;
  return (
    <ul>
      {mine.map((folder) => {
        const depth = planDepth(folders, folder.id);
        const example = exampleName(folder.pattern, timing);
        const isWrong = folder.id === wrongId && folder.pattern !== '';
        return (
          <li key={folder.id} className="py-1" style={{ paddingLeft: depth * 22 }}>
            {mayChange ? (
              <div className="flex items-center gap-2">
                <input
                  aria-label={`Name of a folder ${depth > 0 ? 'in the one above' : ''}`.trim()}
                  aria-invalid={isWrong || undefined}
                  aria-describedby={`${folder.id}-about`}
                  autoFocus={folder.pattern === ''}
                  value={folder.pattern}
                  onChange={(event) => onFolders(renamePlanned(folders, folder.id, event.target.value))}
                  placeholder="Name of the folder"
                  className={`h-[32px] min-w-0 flex-1 rounded-sm border bg-sheet px-2.5 ${isWrong ? 'border-ember' : 'border-edge'}`}
                />
                <Button
                  look="quiet"
                  aria-label={`Add a folder in ${folder.pattern}`}
                  onClick={() => onAddIn(folder.id)}
                >
                  Add inside
                </Button>
                <Menu
                  label="More"
                  look="quiet"
                  name={`More to do with ${folder.pattern}`}
                  acts={[
                    { label: 'Move up', act: () => onFolders(shiftPlanned(folders, folder.id, -1)) },
                    { label: 'Move down', act: () => onFolders(shiftPlanned(folders, folder.id, 1)) },
                    {
                      label: 'Remove from the plan',
                      act: () => onFolders(removePlanned(folders, folder.id)),
                      apart: true,
                    },
                  ]}
                />
              </div>
            ) : (
              <span className="font-medium">{folder.pattern}</span>
            )}
            <p id={`${folder.id}-about`} className={`text-sm ${isWrong ? 'text-ember-ink' : 'text-soft'}`}>
              {isWrong ? wrong : example.ok && example.value !== folder.pattern ? `as in “${example.value}”` : ''}
            </p>
          </li>
        );
      })}
    </ul>
  );
}
