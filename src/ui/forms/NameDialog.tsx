'use client';

import { useState, type FormEvent, type ReactNode } from 'react';
import { readName } from '@/core/text/name';
import { Refusal } from '@/core/errors/refusal';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { TextField } from '../kit/field';
import { saysOf } from '../server/call';

interface Props {
  readonly title: string;
  readonly label: string;
  readonly value?: string;
  readonly help?: ReactNode;
  /** Whether the field may be empty. */
  readonly mayBeEmpty?: boolean;
  readonly act: string;
  /** Further fields, below. */
  readonly children?: ReactNode;
  /** Whether an error is shown at one of those fields. */
  readonly isElsewhere?: (path: string) => boolean;
  readonly onSave: (text: string) => Promise<unknown>;
  readonly onClose: () => void;
}

/** A dialog for one line of text; a refusal is shown below it, and the text stays. */
export function NameDialog({
  title,
  label,
  value = '',
  help,
  mayBeEmpty = false,
  act,
  children,
  isElsewhere = () => false,
  onSave,
  onClose,
}: Props) {
  const [text, setText] = useState(value);
  const [wrong, setWrong] = useState<string>();
  const [busy, setBusy] = useState(false);

  async function submit(event: FormEvent) {
    event.preventDefault();
    const read = readName(text);
    if (!read.ok && !(mayBeEmpty && text.trim() === '')) return setWrong(read.issue.says);
    setBusy(true);
    setWrong(undefined);
    try {
      await onSave(text);
      onClose();
    } catch (error) {
      const field = error instanceof Refusal ? error.issue.fields?.[0] : undefined;
      setWrong(field && isElsewhere(field.path) ? undefined : (field?.says ?? saysOf(error)));
      setBusy(false);
    }
  }

  return (
    <Dialog title={title} open onClose={onClose}>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <TextField
          label={label}
          autoFocus
          autoComplete="off"
          value={text}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setText(event.target.value)}
          help={help}
          wrong={wrong}
        />
        {children}
        <DialogActs>
          <Button type="submit" look="main" disabled={busy}>
            {act}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}
