import type { ArrivalWay } from './model';

/** From where the library fetches what arrives: a mailbox on a mail server; a folder beside the library into which others write; or a folder on another server. */
export const wayInKinds = ['mailbox', 'maildir', 'mbox', 'scans', 'store'] as const;
export type WayInKind = (typeof wayInKinds)[number];

/** Each in words, with what it is for. */
export const wayInWords: Readonly<Record<WayInKind, { readonly called: string; readonly help: string }>> = {
  mailbox: {
    called: 'Mailbox',
    help: 'Mail is fetched from a mail server (IMAP). Nothing in the mailbox is changed: it is only read.',
  },
  maildir: {
    called: 'Folder of mails',
    help: 'A folder in which each mail is a file (maildir). It is only read.',
  },
  store: {
    called: 'Connected store',
    help: 'A folder on another server (WebDAV). Papers are picked from it by hand, or all that come into it are taken. It is only read.',
  },
  mbox: { called: 'File of mails', help: 'Files in which mails stand one after the other (mbox). They are only read.' },
  scans: {
    called: 'Scans',
    help: 'A folder into which a scanner writes, or people put files. What is taken is moved into “Taken” in it.',
  },
};

/** As what something arrives on each way. */
export const wayOf: Readonly<Record<WayInKind, ArrivalWay>> = {
  mailbox: 'mail',
  maildir: 'mail',
  mbox: 'mail',
  scans: 'scan',
  store: 'store',
};

/** How the line to a mail server is kept private. Without is for this machine alone. */
export const lineKinds = ['tls', 'starttls', 'plain'] as const;
export type LineKind = (typeof lineKinds)[number];
/** Each in words. */
export const lineWords: Readonly<Record<LineKind, string>> = {
  tls: 'TLS from the first byte (port 993)',
  starttls: 'TLS once connected (port 143)',
  plain: 'No TLS: on this machine alone',
};

/** What a way in needs to be told. `checkedBy`: the name under which the mail server writes what it found out about senders (RFC 8601); left out: what stands there is not believed. */
export type WayInSettings =
  | {
      readonly kind: 'mailbox';
      readonly host: string;
      readonly port: number;
      readonly line: LineKind;
      readonly user: string;
      /** On the mail server. */
      readonly folder: string;
      readonly checkedBy?: string | undefined;
    }
  | {
      readonly kind: 'scans';
      /** Its name in the library’s folder for arrivals. */
      readonly folder: string;
      /** A page with nothing on it separates papers, as a separator sheet does. */
      readonly atBlanks: boolean;
    }
  | {
      readonly kind: 'store';
      /** Of the folder, as a URL. */
      readonly address: string;
      readonly user: string;
      /** All that is in it is taken, and all that comes into it; else papers are picked by hand. */
      readonly follows: boolean;
    }
  | {
      readonly kind: 'maildir' | 'mbox';
      /** Its name in the library’s folder for arrivals. */
      readonly folder: string;
      readonly checkedBy?: string | undefined;
    };

/** A larger scan is not taken. In bytes. */
export const mostScanBytes = 256 * 1024 * 1024;
/** So many ways in fit a library. */
export const mostWaysIn = 50;

const onThisMachine = /^(?:localhost|127(?:\.\d{1,3}){3}|\[?::1\]?)$/iu;

/** What is wrong with the settings, by field, in words. */
export function settingsFaults(settings: WayInSettings): readonly { readonly field: string; readonly says: string }[] {
  if (settings.kind === 'store') return addressFaults(settings.address);
  if (settings.kind !== 'mailbox')
    return isFolderName(settings.folder)
      ? []
      : [{ field: 'folder', says: 'A folder’s name has letters, digits, spaces, hyphens and dots, and no slash.' }];
  const faults = [];
  if (!/^[\w.:[\]-]{1,253}$/u.test(settings.host))
    faults.push({ field: 'host', says: 'This is not the name of a server: mail.our-office.example is the form.' });
  else if (settings.line === 'plain' && !onThisMachine.test(settings.host))
    faults.push({ field: 'line', says: 'Without TLS the password could be read on its way: choose TLS.' });
  return faults;
}

function addressFaults(address: string): readonly { readonly field: string; readonly says: string }[] {
  const url = URL.canParse(address) ? new URL(address) : null;
  if (
    !url ||
    !['http:', 'https:'].includes(url.protocol) ||
    url.username !== '' ||
    url.search !== '' ||
    url.hash !== ''
  )
    return [
      {
        field: 'address',
        says: 'This is not the address of a folder: https://files.our-office.example/in/ is the form.',
      },
    ];
  return url.protocol === 'https:' || onThisMachine.test(url.hostname)
    ? []
    : [{ field: 'address', says: 'Without TLS the password could be read on its way: the address begins with https.' }];
}

const isFolderName = (name: string): boolean =>
  /^[\p{L}\p{N}][\p{L}\p{N} ._-]{0,79}$/u.test(name) && !/[ .]$/u.test(name);

/** Whether the server, or whoever signs in there, is another: the password must then be given again. */
export function isElsewhere(before: WayInSettings, after: WayInSettings): boolean {
  if (before.kind === 'store' && after.kind === 'store')
    return new URL(before.address).origin !== new URL(after.address).origin || before.user !== after.user;
  return (
    before.kind !== 'mailbox' ||
    after.kind !== 'mailbox' ||
    before.host !== after.host ||
    before.port !== after.port ||
    before.line !== after.line ||
    before.user !== after.user
  );
}

/** Whether a way in signs in to another server, with a password. */
export const signsIn = ({ kind }: WayInSettings): boolean => kind === 'mailbox' || kind === 'store';

/** From where exactly a way in takes: two do not take from one place. */
export function takesFrom(settings: WayInSettings): string {
  switch (settings.kind) {
    case 'mailbox':
      return `${settings.user}@${settings.host}:${settings.port} ${settings.folder}`;
    case 'store':
      return `${settings.user} ${new URL(settings.address).href.replace(/\/*$/u, '')}`;
    default:
      return settings.folder.toLowerCase();
  }
}

/** How a paper in a connected store stands: it lies there; somebody has picked it; it was taken as it is. */
export const storeStates = ['there', 'picked', 'taken'] as const;
export type StoreState = (typeof storeStates)[number];
/** So many papers of a connected store are listed at most. */
export const mostInStore = 10_000;
/** So many are picked at once. */
export const mostPicked = 200;
