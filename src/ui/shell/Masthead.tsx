'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Link } from '../kit/link';
import { FindField } from '../search/FindField';
import { Menu } from '../kit/menu';
import { signOut } from '../session/signIn';
import { forgetBatch } from '../uploads/batch';
import { KeysDialog } from './KeysDialog';
import { setPreference } from '../surroundings/preferences';
import { useSurroundings } from '../surroundings/Surroundings';

/** The band along the top: the library's name, the one find field, the person. */
export function Masthead() {
  const { me, seenBy, library, density, scheme } = useSurroundings();
  const router = useRouter();
  const [keys, setKeys] = useState(false);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [contenteditable]');
      if (event.key === '?' && !typing) setKeys(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  return (
    <header className="no-print flex h-[52px] shrink-0 items-center gap-4 bg-brine-deep px-4 text-on-brine">
      <Link
        href="/desk"
        aria-label="Embrin, my desk"
        className="font-head text-xl font-semibold tracking-tight [font-stretch:112%]"
      >
        embr<span className="text-[#ffb48f]">i</span>n
      </Link>
      <span className="hidden truncate text-on-brine-soft md:block">{library.name}</span>
      <div className="mx-auto w-[min(520px,50vw)]">
        <FindField />
      </div>
      <Menu
        look="mast"
        label={me.name}
        name={`${me.name}: account and library`}
        acts={[
          ...(seenBy === null ? [{ label: 'My account', act: () => router.push('/account') }] : []),
          {
            label: density === 'compact' ? 'Comfortable rows' : 'Compact rows',
            act: () => setPreference('density', density === 'compact' ? 'comfortable' : 'compact'),
          },
          {
            label: scheme === 'dark' ? 'Light colours' : 'Dark colours',
            act: () => setPreference('scheme', scheme === 'dark' ? 'light' : 'dark'),
          },
          { label: 'Keys', keys: '?', act: () => setKeys(true) },
          { label: 'Gaps', act: () => router.push('/gaps'), apart: true },
          { label: 'Disposal tray', act: () => router.push('/tray') },
          ...(seenBy === null ? [{ label: 'Outside links', act: () => router.push('/links') }] : []),
          ...(me.keeper
            ? [
                { label: 'Columns of the library', act: () => router.push(`/columns/${library.rootId}`) },
                { label: 'Controlled lists', act: () => router.push('/lists') },
                { label: 'People and groups', act: () => router.push('/people') },
                { label: 'Library settings', act: () => router.push('/settings') },
              ]
            : []),
          {
            label: 'Sign out',
            act: () => void Promise.all([signOut(), forgetBatch()]).then(() => window.location.assign('/sign-in')),
            apart: true,
          },
        ]}
      />
      <KeysDialog open={keys} onClose={() => setKeys(false)} />
    </header>
  );
}
