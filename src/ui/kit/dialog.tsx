'use client';

import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './button';

interface Props {
  readonly title: string;
  readonly open: boolean;
  readonly onClose: () => void;
  readonly children: ReactNode;
  /** `sheet` comes in from the right and keeps the page in sight. */
  readonly shape?: 'dialog' | 'wide' | 'sheet';
  readonly about?: string;
}

const shapes = {
  dialog: 'top-[12vh] left-1/2 w-[min(480px,94vw)] max-h-[80vh] -translate-x-1/2 rounded-sm',
  wide: 'top-[8vh] left-1/2 w-[min(720px,94vw)] max-h-[86vh] -translate-x-1/2 rounded-sm',
  sheet: 'top-0 right-0 h-full w-[min(760px,100vw)]',
};

/** Moves focus to the first text field, after a menu that opened the dialog has released it. */
function toFirstField(event: Event): void {
  const { currentTarget } = event;
  if (!(currentTarget instanceof HTMLElement)) return;
  const field = currentTarget.querySelector<HTMLElement>(
    'input:not([type]), input[type="text"], input[type="email"], textarea',
  );
  if (!field) return;
  event.preventDefault();
  field.focus();
}

/** A dialog or side sheet over the page: keeps the focus, closes with Esc. */
export function Dialog({ title, open, onClose, children, shape = 'dialog', about }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-[#0b1615]/35" />
        <Radix.Content
          onOpenAutoFocus={toFirstField}
          {...(about === undefined ? { 'aria-describedby': undefined } : {})}
          className={`fixed z-50 flex flex-col overflow-hidden border border-line bg-sheet shadow-lg ${shapes[shape]}`}
        >
          <div className="flex items-start gap-3 border-b border-line px-5 pt-4 pb-3">
            <div className="min-w-0 flex-1">
              <Radix.Title className="font-condensed text-xl break-words">{title}</Radix.Title>
              {about !== undefined && <Radix.Description className="text-sm text-soft">{about}</Radix.Description>}
            </div>
            <Radix.Close asChild>
              <Button>Close</Button>
            </Radix.Close>
          </div>
          <div className="min-h-0 flex-1 overflow-y-auto px-5 py-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** The buttons at the end of a dialog, the act first. */
export const DialogActs = ({ children }: { readonly children: ReactNode }) => (
  <div className="mt-5 flex flex-wrap items-center gap-2">{children}</div>
);
