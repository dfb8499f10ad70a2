'use client';

import { useState, type ReactNode } from 'react';
import { isColleague, isDay, type DetailField } from '@/core/dossiers/details';
import { commonInWords } from '@/core/places/common';
import type { PlacePage } from '@/core/places/model';
import { Link } from '../kit/link';
import { childAddress } from '../layout/addresses';
import { counted } from '@/core/text/measure';
import { dayInWords, momentInWords, whenInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Stamp } from '../kit/stamp';
import type { FrontProps } from '../layout/front';
import { saysOf } from '../server/call';
import { useAsk } from '../server/useCall';
import { Columns } from '../layout/Columns';
import { useSurroundings } from '../surroundings/Surroundings';
import { DetailsDialog } from '../dossiers/DetailsDialog';
import { MeetingsDialog } from '../meetings/MeetingsDialog';
import { SlotList } from './SlotList';

const latest = 8;

/** A dossier at a glance, over all its years: details, missing papers, meetings, latest papers, folders. */
export function GlanceRoom({ page, where, head, placeDocket }: FrontProps) {
  return (
    <Columns where={where} docket={placeDocket} docketOpen={false} onDocketClose={() => undefined}>
      {head}
      <div className="min-h-0 flex-1 overflow-y-auto px-4 py-4">
        <div className="flex flex-wrap items-start gap-x-4 *:min-w-64 *:flex-1">
          <DetailsSection page={page} />
          <MeetingsSection page={page} />
        </div>
        <Expected page={page} />
        <Latest page={page} />
        <Folders page={page} />
      </div>
    </Columns>
  );
}

function Section({
  title,
  act,
  children,
}: {
  readonly title: string;
  readonly act?: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <section aria-label={title} className="mb-4 rounded-sm border border-line bg-sheet px-4 py-3">
      <div className="mb-1.5 flex items-center gap-3">
        <h2 className="flex-1 font-condensed">{title}</h2>
        {act}
      </div>
      {children}
    </section>
  );
}

function DetailsSection({ page: { place, capabilities } }: { readonly page: PlacePage }) {
  const { data, error } = useAsk('details.of', { dossierId: place.id });
  const [open, setOpen] = useState(false);
  const mayChange = data?.mayChange === true && capabilities.includes('amend');
  return (
    <Section
      title="Details"
      act={mayChange && data.fields.length > 0 && <Button onClick={() => setOpen(true)}>Change the details</Button>}
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {data?.fields.length === 0 && (
        <p className="text-soft">
          The series has no details of its dossiers yet. They are set in the series, under This place.
        </p>
      )}
      <dl className="grid grid-cols-[minmax(90px,max-content)_minmax(0,1fr)] gap-x-4 gap-y-1">
        {data?.fields.map((field) => (
          <div key={field.id} className="contents">
            <dt className="text-soft">{field.name}</dt>
            <dd className="min-w-0 break-words">
              <Detail field={field} value={data.details[field.id] ?? ''} names={data.names} />
            </dd>
          </div>
        ))}
      </dl>
      {open && data && <DetailsDialog dossier={place} told={data} onClose={() => setOpen(false)} />}
    </Section>
  );
}

function Detail({
  field,
  value,
  names,
}: {
  readonly field: DetailField;
  readonly value: string;
  readonly names: Readonly<Record<string, string>>;
}) {
  const { timeZone } = useSurroundings();
  if (value === '') return <span className="text-soft">–</span>;
  if (isColleague(field.kind)) return names[value] ?? 'A colleague who has left';
  if (isDay(field.kind)) return dayInWords(`${value}T12:00:00Z`, timeZone);
  if (field.kind === 'email')
    return (
      <a href={`mailto:${value}`} className="text-brine-ink hover:underline">
        {value}
      </a>
    );
  return value;
}

function MeetingsSection({ page: { place, capabilities } }: { readonly page: PlacePage }) {
  const { now, timeZone } = useSurroundings();
  const { data } = useAsk('meetings.of', { dossierId: place.id });
  const [open, setOpen] = useState(false);
  const today = now.slice(0, 10);
  const coming = data?.filter((meeting) => meeting.day >= today) ?? [];
  const past = data?.filter((meeting) => meeting.day < today) ?? [];
  const mayChange = capabilities.includes('amend');
  if (data?.length === 0 && !mayChange) return null;
  return (
    <Section title="Meetings" act={<Button onClick={() => setOpen(true)}>All meetings</Button>}>
      {data?.length === 0 && <p className="text-soft">None yet.</p>}
      <ul>
        {[...coming.slice(0, 3), ...past.slice(-2).reverse()].map((meeting) => (
          <li key={meeting.id} className="flex gap-3 py-0.5">
            <span className="figures w-28 shrink-0">{dayInWords(`${meeting.day}T12:00:00Z`, timeZone)}</span>
            <span className="min-w-0 flex-1 truncate">
              <Link href={`/meeting/${meeting.id}`} className="text-brine-ink hover:underline">
                {meeting.title}
              </Link>
              {meeting.venue !== '' && <span className="text-soft">, {meeting.venue}</span>}
            </span>
            <span className="text-sm text-soft">{meeting.day >= today ? 'to come' : 'held'}</span>
          </li>
        ))}
      </ul>
      {open && <MeetingsDialog dossier={place} mayChange={mayChange} onClose={() => setOpen(false)} />}
    </Section>
  );
}

function Folders({ page }: { readonly page: PlacePage }) {
  const { children } = page;
  return (
    <Section title={children.some((child) => child.kind === 'year') ? 'Years and folders' : 'Folders'}>
      {children.length === 0 && <p className="text-soft">None yet.</p>}
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-x-4">
        {children.map((child) => (
          <li key={child.id} className="flex items-baseline gap-2 border-b border-line py-1">
            <Link href={childAddress(page, child)} className="min-w-0 flex-1 truncate text-brine-ink hover:underline">
              {child.name}
            </Link>
            <span className="figures text-sm text-soft">
              {child.closed && 'closed · '}
              {child.commonTo !== null && `${commonInWords(child.commonTo)} · `}
              {child.paperCount.toLocaleString('en-GB')}
            </span>
          </li>
        ))}
      </ul>
    </Section>
  );
}

function Expected({ page: { place } }: { readonly page: PlacePage }) {
  const { data, error } = useAsk('expected.of', { dossierId: place.id }, { untilCounted: true });
  if (data && data.state === 'counted' && data.slots.length === 0) return null;
  const gaps = data?.slots.filter((slot) => slot.state === 'gap').length ?? 0;
  const ahead = data?.slots.filter((slot) => slot.state === 'ahead').length ?? 0;
  return (
    <Section
      title={gaps > 0 ? `Gaps: ${gaps}` : 'Expected papers'}
      act={data?.officer && <span className="text-sm text-soft">{data.officer.name} is responsible</span>}
    >
      {error && <p role="alert">{saysOf(error)}</p>}
      {data && <SlotList told={data} only={['gap', 'ahead']} most={6} />}
      {data?.state === 'counted' && gaps + ahead === 0 && <p className="text-soft">All that is expected is there.</p>}
    </Section>
  );
}

function Latest({ page: { place } }: { readonly page: PlacePage }) {
  const { now, timeZone } = useSurroundings();
  const { data } = useAsk(
    'view.open',
    {
      placeId: place.id,
      below: true,
      filter: '',
      conditions: [],
      groupings: [],
      sorts: [{ of: 'changedAt', direction: 'down' }],
      counts: [],
      measures: [],
      start: 0,
      limit: latest,
    },
    { untilCounted: true },
  );
  return (
    <Section title={data?.totals ? `Latest of ${counted(data.totals.papers, 'paper')}` : 'Latest papers'}>
      {data?.rows.length === 0 && <p className="text-soft">Nothing is filed here yet.</p>}
      <ul>
        {data?.rows.map((paper) => (
          <li key={paper.id} className="flex items-center gap-2.5 border-b border-line py-1 last:border-0">
            <span className="w-[54px] shrink-0">
              <Stamp word={paper.stamp} />
            </span>
            <Link href={`/place/${paper.homeId}?paper=${paper.id}`} className="min-w-0 flex-1 truncate hover:underline">
              {paper.title}
            </Link>
            <time
              className="shrink-0 text-sm text-soft"
              dateTime={paper.changedAt}
              title={momentInWords(paper.changedAt, timeZone)}
            >
              {whenInWords(paper.changedAt, now, timeZone)}
            </time>
          </li>
        ))}
      </ul>
    </Section>
  );
}
