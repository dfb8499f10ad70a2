'use client';

import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect } from 'react';
import { useQuery } from '@tanstack/react-query';
import type { PaperDocket } from '@/core/documents/model';
import { counted, sizeInWords } from '@/core/text/measure';
import { Docket } from './Docket';
import { useAsk } from '../server/useCall';

const PdfPages = dynamic(() => import('./PdfPages').then((module) => module.PdfPages), { ssr: false });

/** What an address may name a place by. */
const idForm = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/u;

/** A paper on the screen, its docket beside it. Esc goes back to where it is filed. */
export function Reader({ initial }: { readonly initial: PaperDocket }) {
  const router = useRouter();
  const { data } = useAsk('paper.docket', { documentId: initial.id }, { initialData: initial });
  const paper = data ?? initial;
  // As the ledger stood when the paper was opened from it, and where: its sort, its conditions, a place above the home.
  const asked = useSearchParams();
  const from = asked.get('from');
  const at = asked.get('at') ?? '';
  const room = at === 'all' ? '/all' : `/place/${idForm.test(at) ? at : paper.homeId}`;
  const back = `${room}?${from ?? `paper=${paper.id}`}`;

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const busy = event.defaultPrevented || document.querySelector('[role="dialog"],[role="menu"]') !== null;
      const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea');
      if (event.key === 'Escape' && !busy && !typing) router.push(back);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [router, back]);

  return (
    <div className="flex min-h-0 min-w-0 flex-1">
      <main id="main" className="flex min-w-0 flex-1 flex-col">
        <div className="no-print flex items-center gap-3 border-b border-line bg-sheet px-4 py-2">
          <Link href={back} className="shrink-0 text-brine-ink hover:underline">
            Back to {paper.homePath.at(-1)?.name ?? 'its place'}
          </Link>
          <h1 className="min-w-0 truncate font-condensed text-lg">{paper.title}</h1>
        </div>
        <div className="min-h-0 flex-1 overflow-auto bg-mist">
          <Content paper={paper} />
        </div>
      </main>
      <aside
        aria-label="Docket"
        className="no-print hidden w-[318px] shrink-0 overflow-y-auto border-l border-line bg-sheet lg:block"
      >
        <Docket documentId={paper.id} />
      </aside>
    </div>
  );
}

function Content({ paper }: { readonly paper: PaperDocket }) {
  const address = `/api/paper/${paper.id}/content?of=${paper.sha256.slice(0, 12)}`;
  if (paper.mediaType === 'application/pdf') return <PdfPages address={address} title={paper.title} />;
  if (paper.mediaType === 'image/tiff')
    return <ScanPages address={address} title={paper.title} pages={paper.pageCount ?? 1} />;
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
        {paper.capabilities.includes('take') ? (
          <a
            href={`/api/paper/${paper.id}/content?copy`}
            className="mt-3 inline-flex h-[32px] items-center rounded-sm bg-brine px-4 font-semibold text-on-brine"
          >
            Take a copy
          </a>
        ) : (
          <p className="mt-2 text-soft">Copies of it are not open to you; ask a keeper.</p>
        )}
      </div>
    </div>
  );
}

function Picture({ address, name }: { readonly address: string; readonly name: string }) {
  return (
    <div className="grid min-h-full place-items-center p-4">
      <img src={address} alt={name} className="max-w-full border border-line bg-white shadow-sm" />
    </div>
  );
}

function ScanPages({
  address,
  title,
  pages,
}: {
  readonly address: string;
  readonly title: string;
  readonly pages: number;
}) {
  return (
    <>
      {Array.from({ length: pages }, (_each, index) => (
        <Picture
          key={index}
          address={`${address}&page=${index + 1}`}
          name={`${title}, page ${index + 1} of ${pages}`}
        />
      ))}
    </>
  );
}

/** The most of a text that is shown: a longer one is cut here, and says so. */
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
        Fetching the text…
      </p>
    );
  return (
    <div className="mx-auto my-4 max-w-[820px] border border-line bg-sheet px-8 py-6 shadow-sm">
      <pre className="font-mono text-sm leading-relaxed break-words whitespace-pre-wrap">{data.text}</pre>
      {data.rest > 0 && (
        <p className="mt-4 border-t border-line pt-2 text-soft">
          {counted(data.rest, 'byte')} more are not shown here. Take a copy to read them.
        </p>
      )}
    </div>
  );
}

/** Text by its mark, else UTF-8, else single bytes as Windows wrote them. */
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
