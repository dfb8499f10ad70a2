'use client';

import { CaretDownIcon } from '@phosphor-icons/react';
import { DropdownMenu } from 'radix-ui';
import type { ComponentProps, ReactNode } from 'react';
import { Button } from './button';

/** A line of a menu. */
export interface MenuAct {
  readonly label: string;
  readonly keys?: string;
  readonly act: () => void;
  /** For an item that is on or off: its state; the menu stays open. */
  readonly checked?: boolean;
  /** Begins a new group with a line above. */
  readonly apart?: boolean;
}

/** A button that opens a list of acts, each with its key. */
export function Menu({
  label,
  name,
  acts,
  look = 'plain',
  className,
}: {
  readonly label: ReactNode;
  /** The accessible name, if the label is not enough. */
  readonly name?: string;
  readonly acts: readonly MenuAct[];
  readonly look?: ComponentProps<typeof Button>['look'];
  readonly className?: string;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <Button look={look} aria-label={name} className={className}>
          {label}
          <CaretDownIcon size={11} weight="bold" aria-hidden />
        </Button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          // An act may have opened a dialog, which keeps the focus.
          onCloseAutoFocus={(event) => document.querySelector('[role="dialog"]') && event.preventDefault()}
          sideOffset={4}
          className="z-50 max-h-[70vh] min-w-48 overflow-y-auto rounded-sm border border-line bg-sheet py-1 text-base text-ink shadow-md"
        >
          {acts.map(({ label: words, keys, act, apart, checked }) => (
            <div key={words} role="none">
              {apart && <DropdownMenu.Separator className="my-1 h-px bg-line" />}
              {checked === undefined ? (
                <DropdownMenu.Item
                  onSelect={act}
                  className="flex cursor-pointer items-center gap-6 px-3 py-1.5 outline-none data-[highlighted]:bg-brine-wash"
                >
                  <span className="flex-1">{words}</span>
                  {keys && <kbd className="font-mono text-xs text-soft">{keys}</kbd>}
                </DropdownMenu.Item>
              ) : (
                <DropdownMenu.CheckboxItem
                  checked={checked}
                  onCheckedChange={act}
                  onSelect={(event) => event.preventDefault()}
                  className="flex cursor-pointer items-center gap-2 px-3 py-1 outline-none data-[highlighted]:bg-brine-wash"
                >
                  <input
                    type="checkbox"
                    readOnly
                    tabIndex={-1}
                    aria-hidden
                    checked={checked}
                    className="size-[14px] accent-brine"
                  />
                  {words}
                </DropdownMenu.CheckboxItem>
              )}
            </div>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
