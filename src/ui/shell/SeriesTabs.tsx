'use client';

import clsx from 'clsx';
import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import { useState } from 'react';
import { NameDialog } from '../places/NameDialog';
import { TextField } from '../kit/field';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from './Surroundings';

/** The dividers of the cabinet: my desk, then the series. The open one joins the page beneath it. */
export function SeriesTabs() {
  const { me } = useSurroundings();
  const path = usePathname();
  const { data: series } = useAsk('places.series', {});
  const placeId = /^\/place\/(?<id>[^/]+)/u.exec(path)?.groups?.['id'];
  const { data: page } = useAsk('place.open', { placeId: placeId ?? '' }, { enabled: placeId !== undefined });
  const open = page ? (page.path[0]?.id ?? page.place.id) : null;
  const [adding, setAdding] = useState(false);
  return (
    <nav
      aria-label="Series"
      className="no-print flex h-[38px] shrink-0 items-end gap-1 overflow-x-auto bg-brine-deep px-4"
    >
      <Tab href="/desk" label="My desk" open={path === '/desk'} />
      {series?.map((each) => (
        <Tab
          key={each.id}
          href={`/place/${each.id}`}
          label={each.name}
          open={placeId !== undefined && open === each.id}
        />
      ))}
      <Tab href="/all" label="All papers" open={path === '/all'} />
      {me.keeper && (
        <button
          type="button"
          onClick={() => setAdding(true)}
          className="h-[32px] px-3 font-condensed whitespace-nowrap text-on-brine-soft hover:text-on-brine"
        >
          + Series
        </button>
      )}
      {adding && <NewSeries onClose={() => setAdding(false)} />}
    </nav>
  );
}

function Tab({ href, label, open }: { readonly href: string; readonly label: string; readonly open: boolean }) {
  return (
    <Link
      href={href}
      aria-current={open ? 'page' : undefined}
      className={clsx(
        'flex shrink-0 items-center rounded-t-[6px] px-4 font-condensed whitespace-nowrap focus-visible:-outline-offset-2',
        open ? 'h-[35px] bg-fog text-ink' : 'h-[32px] bg-brine text-on-brine hover:brightness-115',
      )}
    >
      {label}
    </Link>
  );
}

function NewSeries({ onClose }: { readonly onClose: () => void }) {
  const router = useRouter();
  const create = useAct('series.create', { quiet: true });
  const [pattern, setPattern] = useState('');
  return (
    <NameDialog
      title="New series"
      label="Name"
      help="A kind of file: Board & committees, Suppliers, Works."
      act="Make the series"
      onClose={onClose}
      onSave={async (name) => {
        const made = await create.mutateAsync({ name, referencePattern: pattern.trim() === '' ? null : pattern });
        router.push(`/place/${made.id}`);
      }}
    >
      <TextField
        label="Reference pattern"
        value={pattern}
        onChange={(event) => setPattern(event.target.value)}
        help="Optional. # stands for a digit of the running number, {yy} for the filing year: T-###, W-{yy}-##."
      />
    </NameDialog>
  );
}
