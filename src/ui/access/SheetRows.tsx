import { capabilities, has, type Capability, type CapabilitySet } from '@/core/access/capability';
import type { SheetLine } from '@/core/access/contract';
import { sayingOf, type Saying } from '@/core/access/sheetLine';
import { capabilityWords } from '@/core/access/words';
import { Button } from '../kit/button';

/** A line of a sheet with its capabilities as sets. */
export type Line = Omit<SheetLine, 'gives' | 'withholds'> & {
  readonly gives: CapabilitySet;
  readonly withholds: CapabilitySet;
};

const looks: Record<Saying, string> = {
  given: 'border-brine bg-brine text-on-brine',
  withheld: 'border-dashed border-ember text-ember-ink',
  unsaid: 'border-edge bg-sheet text-transparent',
};
const marks: Record<Saying, string> = { given: '✓', withheld: '–', unsaid: '' };
const words: Record<Saying, string> = { given: 'given', withheld: 'withheld', unsaid: 'not set' };

const box = 'inline-grid size-[18px] place-items-center rounded-[3px] border text-[11px] leading-none font-bold';

function Who({
  line,
  about,
  fresh = false,
}: {
  readonly line: Line;
  readonly about: string;
  readonly fresh?: boolean;
}) {
  return (
    <th scope="row" className="py-1.5 font-normal">
      <span className="block font-medium">{line.name}</span>
      <span className="text-sm text-soft">
        {line.memberCount !== null && `group of ${line.memberCount} · `}
        {line.outside && 'outside the organisation · '}
        <span className={fresh ? 'font-semibold text-ember-ink' : ''}>{about}</span>
      </span>
    </th>
  );
}

/** An inherited line, which cannot be changed here. */
export function LineAbove({ line }: { readonly line: Line }) {
  return (
    <tr className="border-b border-line">
      <Who line={line} about={`from ${line.fromName}`} />
      {capabilities.map((each) => {
        const saying = sayingOf(line, each);
        return (
          <td key={each} className="text-center">
            <span className="sr-only">{words[saying]}</span>
            {saying !== 'unsaid' && (
              <span
                aria-hidden
                className={`${box} ${saying === 'given' ? 'border-line bg-brine-wash text-brine-ink' : looks.withheld}`}
              >
                {marks[saying]}
              </span>
            )}
          </td>
        );
      })}
      <td />
    </tr>
  );
}

/** A line of this sheet. Clicking a box changes it from unset to given to withheld. */
export function LineHere({
  line,
  saved,
  onPress,
  onRemove,
}: {
  readonly line: Line;
  readonly saved: boolean;
  readonly onPress: (capability: Capability) => void;
  readonly onRemove: () => void;
}) {
  const withheld = line.withholds !== 0 ? 'withheld here' : line.gives === 0 ? 'not set' : 'given here';
  return (
    <tr className={`border-b border-line ${saved ? '' : 'bg-ember-wash'}`}>
      <Who line={line} about={saved ? withheld : `${withheld}, not yet saved`} fresh={!saved} />
      {capabilities.map((each) => {
        const saying = sayingOf(line, each);
        const implied = each !== 'see' && has(line.withholds, 'see');
        return (
          <td key={each} className="text-center">
            <button
              type="button"
              aria-label={`${line.name}, ${capabilityWords[each]}: ${words[saying]}`}
              title={implied ? 'Nothing is left where seeing is withheld' : `Press to change: ${words[saying]}`}
              disabled={implied}
              onClick={() => onPress(each)}
              className="inline-grid size-[26px] place-items-center disabled:opacity-55"
            >
              <span aria-hidden className={`${box} ${looks[saying]}`}>
                {marks[saying]}
              </span>
            </button>
          </td>
        );
      })}
      <td className="text-right">
        <Button look="quiet" className="!px-1" aria-label={`Remove ${line.name}`} onClick={onRemove}>
          Remove
        </Button>
      </td>
    </tr>
  );
}
