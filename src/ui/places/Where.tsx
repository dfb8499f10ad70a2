'use client';

import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { useRouter } from 'next/navigation';
import { filingYearLabel, filingYearShort } from '@/core/calendar/filingYear';
import type { PlacePage, PlaceRow } from '@/core/places/model';
import { inOwnOrder, ownOrders, type OwnOrder } from '@/core/places/order';
import { Menu } from '../kit/menu';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';
import { useOwnOrder } from './useOwnOrder';
import { WhereRow } from './WhereRow';

const orderWords: Readonly<Record<OwnOrder, string>> = {
  kept: 'As kept for all',
  name: 'By name',
  reference: 'By reference',
};

interface Props {
  readonly page: PlacePage;
  readonly seriesId: string;
}

/** The left panel: the filing years, then the dossiers of the series, the open one unfolded. */
export function Where({ page, seriesId }: Props) {
  const { library } = useSurroundings();
  const router = useRouter();
  const { data: dossiers } = useAsk(
    'place.children',
    { placeId: seriesId },
    page.place.id === seriesId ? { initialData: page.children } : {},
  );
  const way = [...page.path.map((step) => step.id), page.place.id];
  const dossier = dossiers?.find((each) => each.commonTo === null && way.includes(each.id));
  const [own, common] = [
    dossiers?.filter((each) => each.commonTo === null),
    dossiers?.filter((each) => each.commonTo !== null),
  ];
  const { data: inDossier } = useAsk(
    'place.children',
    { placeId: dossier?.id ?? '' },
    {
      enabled: dossier?.kind === 'dossier',
      ...(page.place.id === dossier?.id ? { initialData: page.children } : {}),
    },
  );
  const year = page.place.filingYear;
  const years = library.filingYears.filter((each) =>
    inDossier ? inDossier.some((child) => child.kind === 'year' && child.filingYear === each) : year !== null,
  );
  const [order, setOrder] = useOwnOrder();

  function toYear(startYear: number | null) {
    if (!dossier) return;
    const target =
      startYear === null
        ? dossier.id
        : inDossier?.find((each) => each.kind === 'year' && each.filingYear === startYear)?.id;
    if (target) router.push(`/place/${target}`);
  }

  return (
    <nav aria-label="Where" className="flex min-h-0 flex-1 flex-col overflow-y-auto pb-4">
      {dossier?.kind === 'dossier' && years.length > 0 && (
        <div className="px-3 pt-3">
          <p className="mb-1.5 px-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">Filing year</p>
          <div role="group" aria-label="Filing year" className="flex flex-wrap gap-0.5 rounded-sm bg-mist p-0.5">
            {years.map((each) => (
              <YearButton
                key={each}
                label={filingYearShort(each, library)}
                name={filingYearLabel(each, library)}
                chosen={year === each}
                onChoose={() => toYear(each)}
              />
            ))}
            <YearButton label="All" name="All filing years" chosen={year === null} onChoose={() => toYear(null)} />
          </div>
        </div>
      )}
      <div className="flex items-baseline px-4 pt-3 pb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">
        <span className="flex-1">Dossiers</span>
        <Menu
          label="Order"
          look="quiet"
          name={`Order of the dossiers, for you: ${orderWords[order].toLowerCase()}`}
          className="!h-auto !px-2 !py-0 !text-[13px] !font-normal normal-case"
          acts={ownOrders.map((each) => ({
            label: orderWords[each],
            checked: each === order,
            act: () => setOrder(each),
          }))}
        />
        <span className="figures">{own?.length ?? ''}</span>
      </div>
      {own?.length === 0 && <p className="px-4 text-sm text-soft">None yet.</p>}
      <Siblings
        places={inOwnOrder(own ?? [], order)}
        fixed={order !== 'kept'}
        parentId={seriesId}
        way={way}
        year={year}
        depth={0}
      />
      {/* With a dossier open, they are seen in it. */}
      {dossier?.kind !== 'dossier' && common !== undefined && common.length > 0 && (
        <>
          <p className="px-4 pt-3 pb-1 font-condensed text-[11.5px] tracking-wide text-soft uppercase">
            Common to all dossiers
          </p>
          <Siblings places={common} parentId={seriesId} way={way} year={year} depth={0} />
        </>
      )}
    </nav>
  );
}

function YearButton({
  label,
  name,
  chosen,
  onChoose,
}: {
  readonly label: string;
  readonly name: string;
  readonly chosen: boolean;
  readonly onChoose: () => void;
}) {
  return (
    <button
      type="button"
      aria-label={name}
      aria-pressed={chosen}
      onClick={onChoose}
      className={`figures h-[26px] flex-auto rounded-[3px] px-1 text-sm ${chosen ? 'bg-sheet font-semibold shadow-sm' : 'text-soft hover:text-ink'}`}
    >
      {label}
    </button>
  );
}

/** Places that stand beside each other, in an order that can be changed by dragging; those on the way are unfolded. */
export function Siblings({
  places,
  parentId,
  way,
  year,
  depth,
  withinId = null,
  fixed = false,
}: {
  readonly places: readonly PlaceRow[];
  readonly parentId: string;
  readonly way: readonly string[];
  readonly year: number | null;
  readonly depth: number;
  /** The dossier through which they are looked at, in a common folder. */
  readonly withinId?: string | null;
  /** In an order of one's own: dragging would say nothing of the one that holds for everyone. */
  readonly fixed?: boolean;
}) {
  // What is common has its order at the series.
  const inOrder = fixed ? [] : places.filter((each) => each.parentId === parentId);
  const inDossier = (place: PlaceRow) => (place.parentId === parentId ? withinId : (way[1] ?? null));
  return (
    <SortableContext items={inOrder.map((each) => `where-${each.id}`)} strategy={verticalListSortingStrategy}>
      <ul>
        {places.map((place) => (
          <li key={place.id}>
            <WhereRow
              place={place}
              siblings={inOrder}
              parentId={parentId}
              withinId={inDossier(place)}
              current={way.at(-1) === place.id}
              depth={depth}
            />
            {way.includes(place.id) && (
              <Unfolded place={place} way={way} year={year} depth={depth + 1} withinId={inDossier(place)} />
            )}
          </li>
        ))}
      </ul>
    </SortableContext>
  );
}

/**
 * What stands in an open place. With a filing year chosen, its year is not a step of its own here: the switch
 * above says it already, and what stands in the year comes first, then what belongs to no year.
 */
function Unfolded({
  place,
  way,
  year,
  depth,
  withinId,
}: {
  readonly place: PlaceRow;
  readonly way: readonly string[];
  readonly year: number | null;
  readonly depth: number;
  readonly withinId: string | null;
}) {
  const { data } = useAsk('place.children', { placeId: place.id });
  const yearPlace = year === null ? undefined : data?.find((each) => each.kind === 'year' && each.filingYear === year);
  const { data: inYear } = useAsk(
    'place.children',
    { placeId: yearPlace?.id ?? '' },
    { enabled: yearPlace !== undefined },
  );
  const rest = (data ?? []).filter((each) => year === null || each.kind !== 'year');
  return (
    <>
      {yearPlace && <Siblings places={inYear ?? []} parentId={yearPlace.id} way={way} year={year} depth={depth} />}
      <Siblings places={rest} parentId={place.id} way={way} year={year} depth={depth} withinId={withinId} />
    </>
  );
}
