'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { isTyping } from '../kit/isTyping';
import { Link } from '../kit/link';
import { FindField } from '../search/FindField';
import { Menu } from '../kit/menu';
import { signOut } from '../session/signIn';
import { forgetBatch } from '../uploads/batch';
import { KeysDialog } from './KeysDialog';
import { setPreference } from '../surroundings/preferences';
import type { Density, Scheme } from '../surroundings/density';
import { useAsk } from '../server/useCall';
import { useSurroundings } from '../surroundings/Surroundings';

/** How often it is asked what waits. */
const waitingAgainMs = 60_000;

const densityWords: Readonly<Record<Density, string>> = { compact: 'Compact rows', comfortable: 'Comfortable rows' };
const schemeWords: Readonly<Record<Scheme, string>> = {
  system: 'Colours as on this computer',
  light: 'Light colours',
  dark: 'Dark colours',
};

/** The first letters of a name, where there is no room for it. */
const initialsOf = (name: string): string =>
  name
    .split(/\s+/u)
    .map((word) => [...word][0] ?? '')
    .join('')
    .slice(0, 3);

/** How many arrivals wait for the person; nothing where none does. */
function Waiting() {
  const { data } = useAsk('arrivals.waiting', {}, { again: () => waitingAgainMs });
  if (!data || data.waiting === 0) return null;
  return (
    <Link
      href="/intake"
      className="flex min-h-[28px] shrink-0 items-center gap-1.5 rounded-sm px-2 text-on-brine hover:bg-white/10"
    >
      Intake
      <span className="figures rounded-sm bg-straw px-1.5 text-sm font-medium text-straw-ink">{data.waiting}</span>
    </Link>
  );
}

/** The band along the top: the library's name, the one find field, the running of the library, the person. */
export function Masthead() {
  const { me, seenBy, library, density, scheme } = useSurroundings();
  const router = useRouter();
  const [keys, setKeys] = useState(false);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = isTyping(event.target);
      if (event.key === '?' && !typing) setKeys(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  return (
    <header className="no-print flex min-h-[52px] shrink-0 items-center gap-2 max-sm:flex-wrap max-sm:py-1.5 bg-brine-deep sm:gap-4 px-4 text-on-brine">
      <Link
        href="/desk"
        aria-label="Embrin, my desk"
        className="max-sm:mr-auto font-head text-xl font-semibold tracking-tight [font-stretch:112%]"
      >
        embr<span className="text-[#ffb48f]">i</span>n
      </Link>
      <span className="hidden truncate text-on-brine-soft md:block">{library.name}</span>
      <div className="mx-auto w-[min(520px,44vw)] max-sm:order-last max-sm:w-full">
        <FindField />
      </div>
      <Waiting />
      <Menu
        look="mast"
        label="Library"
        acts={[
          { label: 'Duties', act: () => router.push('/duties') },
          { label: 'Intake', act: () => router.push('/intake') },
          { label: 'Gaps', act: () => router.push('/gaps') },
          { label: 'Across dossiers', act: () => router.push('/across') },
          { label: 'Disposal tray', act: () => router.push('/tray') },
          ...(seenBy === null ? [{ label: 'Outside links', act: () => router.push('/links') }] : []),
          ...(me.keeper
            ? [
                { label: 'Columns of the library', act: () => router.push(`/columns/${library.rootId}`), apart: true },
                { label: 'Controlled lists', act: () => router.push('/lists') },
                { label: 'Retention', act: () => router.push('/retention') },
                { label: 'Reading', act: () => router.push('/reading') },
                { label: 'Journal', act: () => router.push('/journal') },
                { label: 'Health', act: () => router.push('/health') },
                { label: 'Backups', act: () => router.push('/backups') },
                { label: 'People and groups', act: () => router.push('/people') },
                { label: 'Library settings', act: () => router.push('/settings') },
              ]
            : []),
        ]}
      />
      <Menu
        look="mast"
        label={
          <>
            <span className="hidden sm:inline">{me.name}</span>
            <span className="sm:hidden">{initialsOf(me.name)}</span>
          </>
        }
        name={`${me.name}: my account`}
        acts={[
          ...(seenBy === null
            ? [
                { label: 'My account', act: () => router.push('/account') },
                { label: 'Exports', act: () => router.push('/exports') },
              ]
            : []),
          { label: 'Keys', keys: '?', act: () => setKeys(true) },
          ...(['compact', 'comfortable'] as const).map((each, at) => ({
            label: densityWords[each],
            checked: density === each,
            act: () => setPreference('density', each),
            apart: at === 0,
          })),
          ...(['system', 'light', 'dark'] as const).map((each, at) => ({
            label: schemeWords[each],
            checked: scheme === each,
            act: () => setPreference('scheme', each),
            apart: at === 0,
          })),
          {
            label: 'Sign out',
            act: () => void Promise.all([signOut(), forgetBatch(me.id)]).then(() => window.location.assign('/sign-in')),
            apart: true,
          },
        ]}
      />
      <KeysDialog open={keys} onClose={() => setKeys(false)} />
    </header>
  );
}
