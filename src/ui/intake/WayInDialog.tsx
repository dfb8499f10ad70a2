'use client';

import { useState, type ReactNode } from 'react';
import { lineKinds, lineWords, wayInKinds, wayInWords, type WayInKind, type WayInSettings } from '@/core/intake/wayIn';
import { useActForm } from '../forms/useActForm';
import { Button } from '../kit/button';
import { Dialog, DialogActs } from '../kit/dialog';
import { CheckField, ChoiceField, TextField } from '../kit/field';

/** A way in that is not kept yet, or one that is changed. */
export interface WayInDraft {
  readonly id: string | null;
  readonly revision: number;
  readonly name: string;
  readonly on: boolean;
  readonly settings: WayInSettings;
}

function emptyFor(kind: WayInKind): WayInSettings {
  if (kind === 'mailbox') return { kind, host: '', port: 993, line: 'tls', user: '', folder: 'INBOX' };
  if (kind === 'store') return { kind, address: '', user: '', follows: false };
  return kind === 'scans' ? { kind, folder: '', atBlanks: false } : { kind, folder: '' };
}

/** What a way in needs to be told. */
export function WayInDialog({ draft, onClose }: { readonly draft: WayInDraft; readonly onClose: () => void }) {
  const [settings, setSettings] = useState<WayInSettings>(draft.settings);
  const { id, revision, name, on } = draft;
  const { form, submit, wrong, refused, isPending } = useActForm(
    'intake.keepWay',
    { id, revision, name, on, settings: draft.settings, password: '' },
    onClose,
  );
  const isOn = form.watch('on') as boolean;
  const set = (next: WayInSettings) => {
    setSettings(next);
    form.setValue('settings', next as never);
    form.clearErrors();
  };
  const at = (field: string) => wrong(`settings.${field}` as never);
  const password = (
    <TextField
      label="Password"
      type="password"
      autoComplete="new-password"
      help={id === null ? undefined : 'Left empty, it stays as it is.'}
      {...form.register('password')}
      wrong={wrong('password')}
    />
  );
  return (
    <Dialog title={id === null ? 'New way in' : 'Way in'} open onClose={onClose} shape="sheet">
      <form onSubmit={submit}>
        {id === null && (
          <ChoiceField
            label="From where"
            help={wayInWords[settings.kind].help}
            value={settings.kind}
            onChange={({ target }) => set(emptyFor(target.value as WayInKind))}
          >
            {wayInKinds.map((kind) => (
              <option key={kind} value={kind}>
                {wayInWords[kind].called}
              </option>
            ))}
          </ChoiceField>
        )}
        <TextField
          label="Name"
          {...form.register('name')}
          wrong={wrong('name')}
          placeholder="Scanner in the corridor"
        />
        {settings.kind === 'mailbox' && (
          <MailboxFields settings={settings} onChange={set} at={at} password={password} />
        )}
        {settings.kind === 'store' && <StoreFields settings={settings} onChange={set} at={at} password={password} />}
        {settings.kind !== 'mailbox' && settings.kind !== 'store' && (
          <TextField
            label="Folder"
            help="It is made in the library’s folder for arrivals. Where that is, the list then says."
            value={settings.folder}
            maxLength={80}
            onChange={({ target }) => set({ ...settings, folder: target.value })}
            wrong={at('folder')}
          />
        )}
        {(settings.kind === 'mailbox' || settings.kind === 'maildir' || settings.kind === 'mbox') && (
          <TextField
            label="Name of the mail server that looks at senders"
            help="If it writes what SPF, DKIM and DMARC say into each mail (Authentication-Results): the name that it gives itself there. Others are not believed."
            placeholder="mx.our-office.example"
            value={settings.checkedBy ?? ''}
            maxLength={253}
            onChange={({ target }) => set({ ...settings, checkedBy: target.value })}
          />
        )}
        {settings.kind === 'scans' && (
          <CheckField
            label="A blank page begins a new paper"
            help="Separator sheets always do. Leave this off where backs of pages are scanned as well."
            checked={settings.atBlanks}
            onChange={(next) => set({ ...settings, atBlanks: next })}
          />
        )}
        <CheckField label="The way in is on" checked={isOn} onChange={(next) => form.setValue('on', next)} />
        {refused && !at('folder') && !at('host') && !at('address') && (
          <p role="alert" className="text-ember-ink">
            {refused}
          </p>
        )}
        <DialogActs>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="main" disabled={isPending}>
            Keep
          </Button>
        </DialogActs>
      </form>
    </Dialog>
  );
}

type MailboxSettings = Extract<WayInSettings, { readonly kind: 'mailbox' }>;
type StoreSettings = Extract<WayInSettings, { readonly kind: 'store' }>;

/** What the fields of a server have in common. */
interface ServerFields<Settings> {
  readonly settings: Settings;
  readonly onChange: (settings: Settings) => void;
  /** What is wrong with a field, in words. */
  readonly at: (field: string) => string | undefined;
  readonly password: ReactNode;
}

function StoreFields({ settings, onChange, at, password }: ServerFields<StoreSettings>) {
  const { address, user, follows } = settings;
  return (
    <>
      <TextField
        label="Address of the folder"
        placeholder="https://files.our-office.example/in/"
        value={address}
        maxLength={500}
        onChange={({ target }) => onChange({ ...settings, address: target.value })}
        wrong={at('address')}
      />
      <TextField
        label="User"
        autoComplete="off"
        value={user}
        onChange={({ target }) => onChange({ ...settings, user: target.value })}
        wrong={at('user')}
      />
      {password}
      <CheckField
        label="Take all that is in it, and all that comes into it"
        help="Else papers are picked from it by hand."
        checked={follows}
        onChange={(next) => onChange({ ...settings, follows: next })}
      />
    </>
  );
}

function MailboxFields({ settings, onChange, at, password }: ServerFields<MailboxSettings>) {
  const { host, port, line, user, folder } = settings;
  const change = (part: Partial<MailboxSettings>) => onChange({ ...settings, ...part });
  return (
    <>
      <TextField
        label="Mail server"
        placeholder="mail.our-office.example"
        value={host}
        onChange={({ target }) => change({ host: target.value })}
        wrong={at('host')}
      />
      <ChoiceField
        label="How the line is kept private"
        value={line}
        onChange={({ target }) => {
          const next = target.value as MailboxSettings['line'];
          change({ line: next, port: next === 'tls' ? 993 : 143 });
        }}
        wrong={at('line')}
      >
        {lineKinds.map((each) => (
          <option key={each} value={each}>
            {lineWords[each]}
          </option>
        ))}
      </ChoiceField>
      <TextField
        label="Port"
        inputMode="numeric"
        value={port}
        onChange={({ target }) => change({ port: Number(target.value.replaceAll(/\D/gu, '').slice(0, 5)) })}
        wrong={at('port')}
      />
      <TextField
        label="User"
        autoComplete="off"
        value={user}
        onChange={({ target }) => change({ user: target.value })}
        wrong={at('user')}
      />
      {password}
      <TextField
        label="Folder in the mailbox"
        value={folder}
        onChange={({ target }) => change({ folder: target.value })}
        wrong={at('folder')}
      />
    </>
  );
}
