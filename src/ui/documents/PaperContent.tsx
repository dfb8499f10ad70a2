'use client';

import { useQuery } from '@tanstack/react-query';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { counted, sizeInWords } from '@/core/text/measure';

const PdfPages = dynamic(() => import('./PdfPages').then((module) => module.PdfPages), { ssr: false });

/** A paper whose content is shown. */
export interface ShownPaper {
  readonly title: string;
  readonly fileName: string;
  readonly mediaType: string;
  readonly sizeBytes: number;
  readonly sha256: string;
  readonly pageCount: number | null;
}

/** A paper's content as its kind is shown. @param address where the content is fetched from, without a query */
export function PaperContent({
  paper,
  address: from,
  mayTake,
}: {
  readonly paper: ShownPaper;
  readonly address: string;
  readonly mayTake: boolean;
}) {
  return mayTake ? (
    <Shown paper={paper} address={from} mayTake />
  ) : (
    <>
      <p className="hidden p-8 print:block">This paper may be read on the screen, and not printed.</p>
      <div className="h-full print:hidden">
        <Shown paper={paper} address={from} mayTake={false} />
      </div>
    </>
  );
}

function Shown({ paper, address: from, mayTake }: Parameters<typeof PaperContent>[0]) {
  const address = `${from}?of=${paper.sha256.slice(0, 12)}`;
  // People who may not take copies get pictures of the pages, never the file.
  if (!mayTake && /^(?:application\/pdf$|image\/|text\/|message\/rfc822$)/u.test(paper.mediaType))
    return <DrawnPages address={address} title={paper.title} pages={paper.pageCount} />;
  if (!mayTake) return <NotDrawn paper={paper} />;
  if (paper.mediaType === 'application/pdf') return <PdfPages address={address} title={paper.title} />;
  if (paper.mediaType === 'image/tiff')
    return <DrawnPages address={address} title={paper.title} pages={paper.pageCount ?? 1} />;
  if (paper.mediaType.startsWith('image/')) return <Picture address={address} name={paper.title} />;
  if (paper.mediaType.startsWith('text/') || paper.mediaType === 'message/rfc822')
    return <TextPages address={address} />;
  return (
    <div className="grid h-full place-items-center p-8">
      <div className="max-w-sm rounded-sm border border-line bg-sheet px-6 py-5 text-center">
        <p className="font-condensed text-lg">{paper.fileName}</p>
        <p className="text-soft">
          {sizeInWords(paper.sizeBytes)}. A paper of this kind opens in a program on your computer.
        </p>
        <a
          href={`${from}?copy`}
          className="mt-3 inline-flex h-[32px] items-center rounded-sm bg-brine px-4 font-semibold text-on-brine"
        >
          Download
        </a>
      </div>
    </div>
  );
}

function Picture({
  address,
  name,
  onLoad,
  quiet = false,
}: {
  readonly address: string;
  readonly name: string;
  readonly onLoad?: () => void;
  /** Shows nothing if the page cannot be shown: it may not exist. */
  readonly quiet?: boolean;
}) {
  const [failed, setFailed] = useState(false);
  if (failed && quiet) return null;
  if (failed) return <p className="p-6 text-soft">{name} cannot be shown.</p>;
  return (
    <div className="grid min-h-full place-items-center p-4">
      <img
        src={address}
        alt={name}
        loading="lazy"
        onLoad={onLoad}
        onError={() => setFailed(true)}
        className="max-w-full border border-line bg-white shadow-sm"
      />
    </div>
  );
}

function NotDrawn({ paper }: { readonly paper: ShownPaper }) {
  return (
    <div className="grid h-full place-items-center p-8">
      <div className="max-w-sm rounded-sm border border-line bg-sheet px-6 py-5 text-center">
        <p className="font-condensed text-lg">{paper.fileName}</p>
        <p className="text-soft">
          {sizeInWords(paper.sizeBytes)}. Pages of this kind of file cannot be shown without handing over a copy, and
          copies of this paper are not open to you. Ask someone who manages it.
        </p>
      </div>
    </div>
  );
}

function DrawnPages({
  address,
  title,
  pages,
}: {
  readonly address: string;
  readonly title: string;
  /** Null if unknown: pages are then requested one after the other until there are no more. */
  readonly pages: number | null;
}) {
  const [known, setKnown] = useState(pages ?? 1);
  return (
    <>
      {Array.from({ length: known }, (_each, index) => (
        <Picture
          key={index}
          address={`${address}&page=${index + 1}`}
          name={pages === null ? `${title}, page ${index + 1}` : `${title}, page ${index + 1} of ${pages}`}
          {...(pages === null && index + 1 === known ? { onLoad: () => setKnown(known + 1) } : {})}
          quiet={pages === null && index > 0}
        />
      ))}
    </>
  );
}

/** The most of a text that is shown. */
const greatestTextBytes = 2_000_000;

function TextPages({ address }: { readonly address: string }) {
  const { data, error } = useQuery({
    queryKey: ['text', address],
    queryFn: async () => {
      const response = await fetch(address, { headers: { range: `bytes=0-${greatestTextBytes - 1}` } });
      if (!response.ok) throw new Error(String(response.status));
      const bytes = await response.arrayBuffer();
      const whole = Number(response.headers.get('content-range')?.split('/')[1] ?? bytes.byteLength);
      return { text: decoded(bytes), rest: whole - bytes.byteLength };
    },
  });
  if (error) return <p className="p-6">The text could not be fetched. Nothing is lost; try again.</p>;
  if (!data)
    return (
      <p className="p-6 text-soft" aria-busy>
        Loading the text…
      </p>
    );
  return (
    <div className="mx-auto my-4 max-w-[820px] border border-line bg-sheet px-8 py-6 shadow-sm">
      <pre className="font-mono text-sm leading-relaxed break-words whitespace-pre-wrap">{data.text}</pre>
      {data.rest > 0 && (
        <p className="mt-4 border-t border-line pt-2 text-soft">
          {counted(data.rest, 'byte')} more are not shown here. Download the paper to read them.
        </p>
      )}
    </div>
  );
}

/** Decodes text: by its byte order mark, else as UTF-8, else as Windows-1252. */
function decoded(bytes: ArrayBuffer): string {
  const [first, second] = new Uint8Array(bytes);
  if (first === 0xff && second === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (first === 0xfe && second === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}
