'use client';

import { Dialog } from '../kit/dialog';

/** Every key that does something, by where it works. */
const keys: readonly (readonly [where: string, readonly (readonly [keys: string, does: string])[]])[] = [
  [
    'Anywhere',
    [
      ['/', 'Go to the find field'],
      ['?', 'This list'],
      ['Alt B', 'Bookmark the paper or the place that is open, or remove its bookmark'],
      ['Esc', 'Close what is open, or step back'],
    ],
  ],
  [
    'Among the papers',
    [
      ['↑ ↓', 'The line above or below'],
      ['Page up, page down, Home, End', 'Further, first, last'],
      ['Space', 'Pick up or put down'],
      ['Shift ↑ ↓', 'Pick up one after the other'],
      ['Ctrl A', 'Pick up all that is shown'],
      ['← →, Space', 'On the heading of a group: fold, unfold, pick up'],
      ['Shift and a heading', 'Sort by it as a further key'],
      ['Enter', 'Read the paper, open the place'],
      ['F2', 'Rename'],
      ['Del', 'Put into the disposal tray'],
    ],
  ],
  [
    'While editing values',
    [
      ['↑ ↓ ← →, Tab', 'The next cell; with Shift, choose a block'],
      ['Any letter', 'Type in place of what is there'],
      ['F2, Enter', 'Amend what is there'],
      ['Ctrl D, Ctrl R', 'Fill down, fill across'],
      ['Ctrl C, Ctrl V', 'Copy and paste a block, to and from a spreadsheet'],
      ['Del', 'Clear'],
      ['Ctrl Z, Ctrl Y', 'Undo, redo'],
      ['Esc', 'Leave the cell, then editing'],
    ],
  ],
  ['In the where panel', [['Alt ↑ ↓', 'Move the place up or down, for everyone']]],
  ['In the tabs of the series', [['Alt ← →', 'Move the series, for everyone']]],
];

/** The list of keyboard shortcuts. */
export function KeysDialog({ open, onClose }: { readonly open: boolean; readonly onClose: () => void }) {
  return (
    <Dialog title="Keys" open={open} onClose={onClose}>
      {keys.map(([where, list]) => (
        <section key={where} className="mb-4">
          <h3 className="mb-1 font-condensed">{where}</h3>
          <dl className="grid grid-cols-[180px_1fr] gap-y-1">
            {list.map(([key, does]) => (
              <div key={key} className="contents">
                <dt className="font-mono text-sm">{key}</dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Dialog>
  );
}
