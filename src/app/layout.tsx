import type { Metadata, Viewport } from 'next';
import { cookies } from 'next/headers';
import type { ReactNode } from 'react';
import { Reacting } from '@/ui/shell/Reacting';
import { schemeOf } from '@/ui/surroundings/density';
import './globals.css';

export const metadata: Metadata = {
  title: { default: 'Embrin', template: '%s · Embrin' },
  description: 'The shared library',
};
export const viewport: Viewport = { width: 'device-width', initialScale: 1 };

export default async function RootLayout({ children }: { readonly children: ReactNode }) {
  const scheme = schemeOf((await cookies()).get('embrin-scheme')?.value);
  return (
    <html lang="en-GB" data-scheme={scheme === 'system' ? undefined : scheme} className="h-full">
      <body className="h-full">
        {children}
        <Reacting />
      </body>
    </html>
  );
}
