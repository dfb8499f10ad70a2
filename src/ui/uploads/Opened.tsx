import { counted } from '@/core/text/measure';
import { CheckField } from '../kit/field';
import type { useUnpacking } from './useUnpacking';

/** What archives that were unpacked say of their files, and what is taken over of it. */
export function Opened({
  opened,
  leadLeftOut,
  setLeadLeftOut,
  cellsTaken,
  setCellsTaken,
}: Pick<
  ReturnType<typeof useUnpacking>,
  'opened' | 'leadLeftOut' | 'setLeadLeftOut' | 'cellsTaken' | 'setCellsTaken'
>) {
  const leads = opened.flatMap(({ lead }) => (lead === '' ? [] : lead.split('/').join(' / ')));
  const listed = opened.reduce((sum, each) => sum + each.listed, 0);
  const sums = opened.reduce((sum, each) => sum + each.sums, 0);
  if (leads.length === 0 && listed === 0 && sums === 0) return null;
  return (
    <div className="mt-3 rounded-sm border border-line bg-fog px-4 py-2">
      {sums > 0 && (
        <p className="text-sm text-soft">
          {counted(sums, 'file was', 'files were')} compared with the sums in the archive.
        </p>
      )}
      {leads.length > 0 && (
        <CheckField
          label={`Leave out the folders that hold all of it: ${leads.join(', ')}`}
          checked={leadLeftOut}
          onChange={setLeadLeftOut}
        />
      )}
      {listed > 0 && (
        <CheckField
          label={`Take over the values that its list gives for ${counted(listed, 'paper')}`}
          checked={cellsTaken}
          onChange={setCellsTaken}
        />
      )}
    </div>
  );
}
