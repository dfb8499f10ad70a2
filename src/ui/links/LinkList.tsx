'use client';

import type { OutsideLinkRow } from '@/core/outside/model';
import { endInWords, linkTermsInWords, linkUseInWords } from '@/core/outside/words';
import { counted } from '@/core/text/measure';
import { lastDayInWords, momentInWords, whenInWords } from '@/core/calendar/moment';
import { Button } from '../kit/button';
import { Link } from '../kit/link';
import { say } from '../kit/notice';
import { useAct, useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** The outside links to one paper or place that open something, said where it is said who can open it; nothing where there are none. */
export function LinksHere({ onId }: { readonly onId: string }) {
  const { data } = useAsk('links.list', { onId });
  const open = data?.filter((link) => link.ended === null) ?? [];
  if (open.length === 0) return null;
  return (
    <section aria-label="Outside links to it" className="mb-4 rounded-sm border border-straw-edge bg-straw px-3 py-2">
      <p className="text-sm font-semibold text-straw-ink">
        {counted(open.length, 'outside link opens', 'outside links open')} it too
      </p>
      <ul>
        {open.map((link) => (
          <LinkLine key={link.id} link={link} named={false} />
        ))}
      </ul>
    </section>
  );
}

/** A link, how it has been used, and the way to withdraw it. */
export function LinkLine({ link, named }: { readonly link: OutsideLinkRow; readonly named: boolean }) {
  const { now, timeZone } = useSurroundings();
  const withdraw = useAct('link.withdraw');
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3 py-2 last:border-0">
      <span className={`min-w-0 flex-1 basis-72 ${link.ended === null ? '' : 'text-soft'}`}>
        {named && (
          <Link href={`/${link.on.kind}/${link.on.id}`} className="block font-medium hover:underline">
            {link.name}
          </Link>
        )}
        <span className="block text-sm">
          {linkTermsInWords(link)} ·{' '}
          {link.ended === null
            ? `until ${lastDayInWords(link.expiresAt, timeZone)}`
            : endInWords(link.ended).toLowerCase()}
        </span>
        <span className="block text-sm text-soft">
          made by {link.madeBy}, {whenInWords(link.madeAt, now, timeZone)} ·{' '}
          <span title={link.lastOpenedAt === null ? undefined : momentInWords(link.lastOpenedAt, timeZone)}>
            {linkUseInWords(link)}
            {link.lastOpenedAt !== null && `, last ${whenInWords(link.lastOpenedAt, now, timeZone)}`}
          </span>
        </span>
      </span>
      {link.ended === null && (
        <Button
          aria-label={`Withdraw the outside link to ${link.name}`}
          onClick={() =>
            withdraw.mutate(
              { linkId: link.id },
              { onSuccess: () => say.done(`The link to “${link.name}” no longer works`) },
            )
          }
        >
          Withdraw
        </Button>
      )}
    </li>
  );
}
