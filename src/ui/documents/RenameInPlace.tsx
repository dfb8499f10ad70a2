'use client';

import { useState } from 'react';
import { readName } from '@/core/text/name';
import { saysOf } from '../server/call';
import { useAsOpened } from '../forms/useAsOpened';

/** A name being typed over: Enter saves, Esc leaves it as it was; a refusal stays beside what was typed. */
export function RenameInPlace({
  label,
  value,
  onSave,
  onClose,
}: {
  readonly label: string;
  readonly value: string;
  readonly onSave: (name: string) => Promise<unknown>;
  readonly onClose: () => void;
}) {
  const [text, setText] = useState(value);
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);
  const before = useAsOpened({ value, onSave });

  async function save() {
    if (busy) return;
    const read = readName(text);
    if (!read.ok) return setWrong(read.issue.says);
    if (read.value === before.value) return onClose();
    setBusy(true);
    try {
      await before.onSave(read.value);
      onClose();
    } catch (error) {
      setWrong(saysOf(error));
      setBusy(false);
    }
  }

  return (
    <span className="relative block">
      <input
        autoFocus
        aria-label={label}
        aria-invalid={wrong !== undefined}
        value={text}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => (wrong === undefined ? void save() : undefined)}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter') void save();
          if (event.key === 'Escape') onClose();
        }}
        className="h-[26px] w-full rounded-sm border border-brine-ink bg-sheet px-1.5 text-ink"
      />
      {wrong !== undefined && (
        <span
          role="alert"
          className="absolute top-full left-0 z-20 mt-1 max-w-96 rounded-sm border border-ember bg-ember-wash px-2 py-1 text-sm text-ink"
        >
          {wrong}
        </span>
      )}
    </span>
  );
}
