import type { PlaceChoice } from '@/core/places/contract';
import { Consequences } from '../access/Consequences';
import { Button } from '../kit/button';
import { saysOf } from '../server/call';
import { PlaceChooser } from './PlaceChooser';

/** The place to which something is moved. */
export type Target = Pick<PlaceChoice, 'id' | 'name'>;

/** Where something is to move: a chooser, and after it the chosen place with who would gain and lose what. */
export function MoveTarget({
  chosen,
  capability,
  forecast,
  onChoose,
}: {
  readonly chosen: Target | undefined;
  readonly capability: 'add' | 'manage';
  readonly forecast: {
    readonly data: Parameters<typeof Consequences>[0] | undefined;
    readonly error: Error | null;
  };
  readonly onChoose: (place: PlaceChoice | undefined) => void;
}) {
  return (
    <>
      {chosen ? (
        <p>
          To <strong>{chosen.name}</strong>{' '}
          <Button look="quiet" onClick={() => onChoose(undefined)}>
            Choose another place
          </Button>
        </p>
      ) : (
        <PlaceChooser label="Where to" capability={capability} onChoose={onChoose} />
      )}
      {forecast.data && chosen && <Consequences {...forecast.data} />}
      {forecast.error && (
        <p role="alert" className="mt-3 text-ember-ink">
          {saysOf(forecast.error)}
        </p>
      )}
    </>
  );
}
