import type { PlanTiming } from './namePattern';

/** A folder of a ready-made plan, with its subfolders of the same timing. */
export interface ReadyFolder {
  readonly pattern: string;
  readonly timing: PlanTiming;
  readonly within?: readonly string[];
}

/** Ready-made plans by kind of series. Common practice of small organisations, no source. */
export const readyPlans: readonly { readonly name: string; readonly folders: readonly ReadyFolder[] }[] = [
  {
    name: 'Board or committee',
    folders: [
      { timing: 'once', pattern: 'Terms of reference' },
      { timing: 'once', pattern: 'Members' },
      { timing: 'year', pattern: 'Letters' },
      { timing: 'meeting', pattern: '{meeting:d MMM} meeting', within: ['Papers'] },
    ],
  },
  {
    name: 'Client or tenant',
    folders: [
      { timing: 'once', pattern: 'Lease' },
      { timing: 'once', pattern: 'Insurance' },
      { timing: 'year', pattern: 'Letters' },
      { timing: 'year', pattern: 'Charges' },
    ],
  },
  {
    name: 'Supplier',
    folders: [
      { timing: 'once', pattern: 'Contract' },
      { timing: 'year', pattern: 'Orders' },
      { timing: 'year', pattern: 'Invoices' },
    ],
  },
  {
    name: 'Project',
    folders: [
      { timing: 'once', pattern: 'Brief' },
      { timing: 'once', pattern: 'Tenders', within: ['Received'] },
      { timing: 'once', pattern: 'Contract' },
      { timing: 'once', pattern: 'Drawings' },
      { timing: 'once', pattern: 'Cost' },
      { timing: 'meeting', pattern: '{meeting:d MMM} site meeting' },
    ],
  },
  {
    name: 'Policies',
    folders: [
      { timing: 'once', pattern: 'In force' },
      { timing: 'once', pattern: 'Drafts' },
      { timing: 'once', pattern: 'Superseded' },
    ],
  },
];
