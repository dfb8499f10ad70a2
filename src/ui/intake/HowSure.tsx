import type { IntakeNumbers } from '@/core/intake/contract';
import type { SureRow } from '@/core/intake/howSure';
import { percentSure } from '@/core/stated/sureness';

const names = { places: 'Places', values: 'Values' } as const;

/** How sure places and values were said to be that people have filed since, and how many of them were right. */
export function HowSure({ sure, className }: { readonly sure: IntakeNumbers['sure']; readonly className: string }) {
  const kinds = (['places', 'values'] as const).filter((kind) => sure[kind].length > 0);
  return (
    <section className="mt-5">
      <h2 className={className}>How sure, and how often right</h2>
      {kinds.length === 0 ? (
        <p className="text-soft">Not known yet: nothing has been filed that something was proposed for.</p>
      ) : (
        <table className="w-full border-separate border-spacing-0 rounded-sm border border-line bg-sheet text-left">
          <thead>
            <tr className="text-sm text-soft">
              <th scope="col" className="px-4 py-1.5 font-normal">
                Of the last 500 filed
              </th>
              <th scope="col" className="px-2 py-1.5 text-right font-normal">
                Said to be sure
              </th>
              <th scope="col" className="px-4 py-1.5 text-right font-normal">
                Right
              </th>
            </tr>
          </thead>
          {kinds.map((kind) => (
            <tbody key={kind}>
              {sure[kind].map((row) => (
                <Row key={row.from} name={names[kind]} row={row} />
              ))}
            </tbody>
          ))}
        </table>
      )}
    </section>
  );
}

function Row({ name, row: { said, right, of } }: { readonly name: string; readonly row: SureRow }) {
  return (
    <tr className="*:border-t *:border-line">
      <th scope="row" className="px-4 py-1 font-normal">
        {name}
      </th>
      <td className="figures px-2 py-1 text-right">{percentSure(said)} %</td>
      <td className="figures px-4 py-1 text-right">
        {Math.round((100 * right) / of)} % <span className="text-soft">({`${right} of ${of}`})</span>
      </td>
    </tr>
  );
}
