'use client';

import { useState } from 'react';
import type { Attachment, MailForm } from '@/core/reading/form';
import { counted, sizeInWords } from '@/core/text/measure';
import { Button } from '../kit/button';
import { Stamp } from '../kit/stamp';
import { SafeFrame } from './SafeFrame';
import type { Source } from './source';
import { useViewForm } from './useViewForm';
import { Fetching } from './Waiting';

/** A mail: its head, its body, and what is attached, which opens within it. */
export function Mail({
  source,
  onAttachment,
}: {
  readonly source: Source;
  /** Opens an attachment; null where that is not offered, and it is downloaded instead. */
  readonly onAttachment: ((attachment: Attachment) => void) | null;
}) {
  const { data, error } = useViewForm(source, 'mail');
  if (!data) return <Fetching failed={error !== null} />;
  return (
    <div className="flex h-full flex-col bg-sheet">
      <Head mail={data} />
      {data.attachments.length > 0 && (
        <ul
          aria-label="Attached"
          className="flex max-h-[30%] flex-wrap gap-2 overflow-y-auto border-b border-line px-5 py-2.5"
        >
          {data.attachments.map((attachment) => (
            <li key={attachment.number}>
              {onAttachment ? (
                <Button className="max-w-[300px]" onClick={() => onAttachment(attachment)}>
                  <Stamped {...attachment} />
                </Button>
              ) : (
                <a
                  href={source.address({ attachment: attachment.number, copy: '' })}
                  className="inline-flex h-[30px] max-w-[300px] items-center gap-1.5 rounded-sm border border-line px-3"
                >
                  <Stamped {...attachment} />
                </a>
              )}
            </li>
          ))}
          {data.moreAttachments > 0 && (
            <li className="py-1 text-soft">{`and ${counted(data.moreAttachments, 'more file')}, in the mail itself`}</li>
          )}
        </ul>
      )}
      <div className="min-h-0 flex-1">
        {data.markup === null ? (
          <pre
            dir="auto"
            tabIndex={0}
            className="h-full overflow-auto px-6 py-5 font-sans text-[15px] leading-normal break-words whitespace-pre-wrap"
          >
            {data.text === '' ? 'There is nothing in it.' : data.text}
          </pre>
        ) : (
          <SafeFrame markup={data.markup} name={`Body of ${source.title}`} />
        )}
      </div>
    </div>
  );
}

const Stamped = ({ stamp, name, sizeBytes }: Attachment) => (
  <>
    <Stamp word={stamp} />
    <span className="truncate">{name}</span>
    <span className="figures text-soft">{sizeInWords(sizeBytes)}</span>
  </>
);

function Head({ mail }: { readonly mail: MailForm }) {
  const [isWhole, setWhole] = useState(false);
  const people = (all: MailForm['from']) =>
    all.map(({ name, address }) => (name === '' ? address : isWhole ? `${name} <${address}>` : name)).join(', ');
  const lines: readonly (readonly [string, string])[] = [
    ['From', people(mail.from)],
    ['To', people(mail.to)],
    ['Copied to', people(mail.copiedTo)],
    [
      'Sent',
      mail.sentAt === null
        ? ''
        : new Date(mail.sentAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' }),
    ],
  ];
  return (
    <header className="border-b border-line px-5 py-3">
      <div className="flex items-start gap-3">
        <h2 className="min-w-0 flex-1 font-condensed text-lg break-words">{mail.subject || 'No subject'}</h2>
        <Button look="quiet" aria-pressed={isWhole} onClick={() => setWhole(!isWhole)}>
          {isWhole ? 'Names only' : 'Addresses'}
        </Button>
      </div>
      <dl className="grid grid-cols-[76px_minmax(0,1fr)] gap-y-0.5">
        {lines
          .filter(([, value]) => value !== '')
          .map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-soft">{name}</dt>
              <dd className="line-clamp-3 break-words">{value}</dd>
            </div>
          ))}
      </dl>
    </header>
  );
}
