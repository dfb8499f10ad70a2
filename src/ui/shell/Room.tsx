'use client';

import { QueryClientProvider } from '@tanstack/react-query';
import { NuqsAdapter } from 'nuqs/adapters/next/app';
import { useState, type ReactNode } from 'react';
import { Toaster } from 'sonner';
import { HandProvider } from '../hand/HandProvider';
import { HandTray } from './HandTray';
import { Live } from '../live/Live';
import { makeQueryClient } from '../server/useCall';
import { SessionGuard } from '../session/SessionGuard';
import { QueuePanel } from '../uploads/QueuePanel';
import { UploadsProvider } from '../uploads/UploadsProvider';
import { DragAndDrop } from './DragAndDrop';
import { Masthead } from './Masthead';
import { SeenByBand } from './SeenByBand';
import { SeriesTabs } from './SeriesTabs';
import { SurroundingsProvider, type Surroundings } from '../surroundings/Surroundings';

/** The screen around every page: masthead, series tabs, the page, what is in hand. */
export function Room({ around, children }: { readonly around: Surroundings; readonly children: ReactNode }) {
  const [queries] = useState(makeQueryClient);
  return (
    <QueryClientProvider client={queries}>
      <NuqsAdapter>
        <SurroundingsProvider value={around}>
          <HandProvider>
            <UploadsProvider>
              <DragAndDrop>
                <div className="flex h-full flex-col">
                  <a
                    href="#main"
                    className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-sheet focus:p-2"
                  >
                    To the papers
                  </a>
                  <SeenByBand />
                  <Masthead />
                  <SeriesTabs />
                  <div className="flex min-h-0 flex-1">{children}</div>
                  <HandTray />
                </div>
                <QueuePanel />
              </DragAndDrop>
            </UploadsProvider>
          </HandProvider>
          <Live />
          <SessionGuard email={around.me.email} />
          <Toaster
            theme={around.scheme}
            position="bottom-left"
            offset={{ bottom: 54, left: 12 }}
            toastOptions={{
              style: {
                borderRadius: 4,
                background: 'var(--sheet)',
                color: 'var(--ink)',
                borderColor: 'var(--edge)',
                fontFamily: 'var(--font-sans)',
              },
            }}
          />
        </SurroundingsProvider>
      </NuqsAdapter>
    </QueryClientProvider>
  );
}
