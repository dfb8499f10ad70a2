'use client';

import { useEffect, useRef, useState } from 'react';
import { Button } from '../kit/button';
import { call } from '../server/call';
import { useAsk } from '../server/useCall';

/** Who leads is asked for, and who leads says where they are, so often. */
const everyMs = 2500;
const saidAgainMs = 15_000;

/** Says where one is. Where it cannot be said, those who follow stay where they are. */
const lead = (issueId: string, page: number | null): void =>
  void call('pack.lead', { issueId, page }).catch(() => undefined);

/** Leads others through a pack, or follows who does. */
export function FollowBar({
  issueId,
  page,
  mayLead,
  onPage,
}: {
  readonly issueId: string;
  /** The page in sight. */
  readonly page: number;
  readonly mayLead: boolean;
  readonly onPage: (page: number) => void;
}) {
  const { data: led } = useAsk('pack.led', { issueId }, { again: () => everyMs });
  const [leading, setLeading] = useState(false);
  const [following, setFollowing] = useState(false);
  const other = led && !led.isMe ? led : null;

  useEffect(() => {
    if (!leading) return;
    lead(issueId, page);
    const again = setInterval(() => lead(issueId, page), saidAgainMs);
    return () => clearInterval(again);
  }, [leading, issueId, page]);

  // Somebody else leads now.
  const tookOver = leading && other !== null;
  useEffect(() => {
    if (!tookOver) return;
    const timer = setTimeout(() => setLeading(false), everyMs);
    return () => clearTimeout(timer);
  }, [tookOver]);

  const go = useRef(onPage);
  useEffect(() => {
    go.current = onPage;
  });
  const to = following ? (other?.page ?? null) : null;
  useEffect(() => {
    if (to !== null) go.current(to);
  }, [to]);

  if (!mayLead && other === null) return null;
  const words = leading
    ? 'You lead: others can follow you from page to page.'
    : other === null
      ? 'Nobody leads.'
      : other.page === null
        ? `${other.by} is on page ${other.number}, which is not part of your copy.`
        : `${other.by} is on page ${other.number}.`;
  return (
    <div
      role="group"
      aria-label="Following"
      className="no-print flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-fog px-4 py-1 text-sm"
    >
      <span role="status" className="min-w-0 flex-1">
        {words}
      </span>
      {other !== null && !leading && (
        <Button className="!h-[26px]" aria-pressed={following} onClick={() => setFollowing(!following)}>
          {following ? 'Stop following' : 'Follow'}
        </Button>
      )}
      {mayLead && (
        <Button
          className="!h-[26px]"
          aria-pressed={leading}
          onClick={() => {
            if (leading) lead(issueId, null);
            setLeading(!leading);
            setFollowing(false);
          }}
        >
          {leading ? 'Stop leading' : 'Lead'}
        </Button>
      )}
    </div>
  );
}
