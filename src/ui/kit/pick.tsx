'use client';

import { Command } from 'cmdk';
import { Popover } from 'radix-ui';
import { useRef, useState, type ReactNode } from 'react';
import { searchKey } from '@/core/text/fold';
import { useWaitingEnter } from './useWaitingEnter';

/** An item. `leads` are other words that find it. */
export interface PickItem {
  readonly id: string;
  readonly name: string;
  readonly about?: string;
  readonly leads?: readonly string[];
  readonly depth?: number;
}

interface Props {
  /** The accessible name of the control. */
  readonly label: string;
  readonly shown: ReactNode;
  readonly items: readonly PickItem[];
  readonly picked: readonly string[];
  readonly onPick: (id: string) => void;
  /** Clears the value; left out if one is required. */
  readonly onClear?: (() => void) | undefined;
  /** Adds the typed text as a new value; left out for a closed list. */
  readonly onCreate?: ((name: string) => void) | undefined;
  /** Stays open after a pick: for several values. */
  readonly several?: boolean;
  /** Called with the typed text, for items from the server. */
  readonly onWords?: (words: string) => void;
  /** False while `items` are still those of words typed before: of them only what has the typed words is offered. */
  readonly answered?: boolean;
  readonly nothing?: string;
  /** Set if picking opens something that takes the focus. */
  readonly letsGo?: boolean;
  readonly className?: string;
}

/** A control that picks from a list by typing any part of a name, whatever its case and accents; Enter takes the marked one. */
export function Pick(props: Props) {
  const { label, shown, items, picked, onPick, onClear, onCreate, several = false, onWords, answered = true } = props;
  const [open, setOpen] = useState(false);
  const [words, setWords] = useState('');
  const [marked, setMarked] = useState('');
  const picking = useRef(false);
  const key = searchKey(words);
  const found =
    onWords && answered
      ? items
      : items.filter((item) => [item.name, ...(item.leads ?? [])].some((name) => searchKey(name).includes(key)));
  const exact = items.some((item) => [item.name, ...(item.leads ?? [])].some((name) => searchKey(name) === key));
  const create = onCreate && answered && key !== '' && !exact ? onCreate : null;
  const inSight = found.find((item) => item.id === marked)?.id ?? found[0]?.id ?? (create ? 'create' : '');

  function type(next: string) {
    setWords(next);
    setMarked('');
    onWords?.(next);
  }
  function close() {
    setOpen(false);
    type('');
  }
  const goOn = () => (several ? type('') : close());
  function pick(id: string) {
    picking.current = true;
    onPick(id);
    goOn();
  }
  function add() {
    create?.(words.trim());
    goOn();
  }
  // What is marked has the typed words, and is taken at once; only where nothing is, Enter waits.
  const whenWaiting = useWaitingEnter(answered || inSight !== '', () => {
    if (!open) return;
    if (inSight === 'create') add();
    else if (inSight !== '') pick(inSight);
  });

  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        picking.current = false;
        if (next) setOpen(true);
        else close();
      }}
    >
      <Popover.Trigger
        aria-label={label}
        className={
          props.className ??
          'min-h-[28px] w-full rounded-sm border border-transparent px-1.5 py-0.5 text-left hover:border-edge aria-expanded:border-brine-ink'
        }
      >
        {shown}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={3}
          aria-label={label}
          className="z-[60] w-[min(max(264px,var(--radix-popover-trigger-width)),380px)] rounded-sm border border-line bg-sheet text-ink shadow-lg"
          onKeyDown={(event) => event.stopPropagation()}
          onCloseAutoFocus={(event) => props.letsGo && picking.current && event.preventDefault()}
        >
          <Command
            shouldFilter={false}
            label={label}
            value={inSight}
            onValueChange={setMarked}
            className="flex flex-col"
          >
            <Command.Input
              autoFocus
              value={words}
              onKeyDown={whenWaiting}
              onValueChange={type}
              placeholder="Type to find"
              className="h-[34px] rounded-t-sm border-b border-line bg-sheet px-2.5 placeholder:text-soft"
            />
            <Command.List className="max-h-[264px] overflow-y-auto p-1">
              {found.length === 0 && !create && (
                <p className="px-2 py-2 text-sm text-soft">
                  {answered ? (props.nothing ?? 'Nothing found.') : 'Looking…'}
                </p>
              )}
              {found.map((item) => (
                <Command.Item
                  key={item.id}
                  value={item.id}
                  onSelect={() => pick(item.id)}
                  style={{ paddingLeft: 8 + (key === '' ? (item.depth ?? 0) * 14 : 0) }}
                  className="flex cursor-pointer items-center gap-2 rounded-sm py-1 pr-2 data-[selected=true]:bg-brine-wash"
                >
                  {several && (
                    <input
                      type="checkbox"
                      readOnly
                      tabIndex={-1}
                      aria-hidden
                      checked={picked.includes(item.id)}
                      className="size-[14px] accent-brine"
                    />
                  )}
                  <span className={picked.includes(item.id) ? 'font-semibold' : ''}>{item.name}</span>
                  {item.about && <span className="ml-auto truncate text-sm text-soft">{item.about}</span>}
                </Command.Item>
              ))}
              {create && (
                <Command.Item
                  value="create"
                  onSelect={add}
                  className="cursor-pointer rounded-sm px-2 py-1 text-brine-ink data-[selected=true]:bg-brine-wash"
                >
                  Add “{words.trim()}”
                </Command.Item>
              )}
            </Command.List>
            {onClear && picked.length > 0 && (
              <button
                type="button"
                onClick={() => {
                  onClear();
                  close();
                }}
                className="border-t border-line px-2.5 py-1.5 text-left text-sm text-soft hover:text-ink"
              >
                Leave it empty
              </button>
            )}
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
