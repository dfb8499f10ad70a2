import { cookies } from 'next/headers';
import { redirect } from 'next/navigation';
import type { ReactNode } from 'react';
import { pageActor } from '@/app/pageActor';
import { isFounded } from '@/server/library/found';
import { librarySettings } from '@/server/library/settings';
import { Room } from '@/ui/shell/Room';
import { densities, type Density, schemeOf } from '@/ui/surroundings/density';

/** The room around every page of someone signed in. */
export default async function RoomLayout({ children }: { readonly children: ReactNode }) {
  if (!(await isFounded())) redirect('/begin');
  const actor = await pageActor('/desk');
  const library = await librarySettings();
  const kept = await cookies();
  const density: Density = kept.get('embrin-density')?.value === 'comfortable' ? 'comfortable' : 'compact';
  const { personId, seenBy, name, email, keeper } = actor;
  return (
    <Room
      around={{
        me: { id: personId, name, email, keeper },
        seenBy: seenBy?.name ?? null,
        library,
        timeZone: library.timeZone,
        now: new Date().toISOString(),
        density,
        rowHeight: densities[density],
        scheme: schemeOf(kept.get('embrin-scheme')?.value),
      }}
    >
      {children}
    </Room>
  );
}
