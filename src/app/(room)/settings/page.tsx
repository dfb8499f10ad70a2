import { notFound } from 'next/navigation';
import { pageActor } from '@/app/pageActor';
import { librarySettings } from '@/server/library/settings';
import { SettingsPage } from '@/ui/library/SettingsPage';

export const metadata = { title: 'Library settings' };

export default async function Settings() {
  const actor = await pageActor('/settings');
  if (!actor.keeper) notFound();
  const settings = await librarySettings();
  return <SettingsPage key={settings.revision} settings={settings} />;
}
