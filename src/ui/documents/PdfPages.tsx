'use client';

import { useRef, useState } from 'react';
import { Document, Page, pdfjs } from 'react-pdf';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Button } from '../kit/button';

pdfjs.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url).toString();

const options = { cMapUrl: '/pdfjs/cmaps/', standardFontDataUrl: '/pdfjs/standard_fonts/', wasmUrl: '/pdfjs/wasm/' };
const widths = [480, 600, 760, 960, 1240] as const;
/** The height of an A4 page by its width: what a page is taken for before it has been measured. */
const a4 = Math.SQRT2;

/** The pages of a PDF, one below the other; only those in sight are drawn. */
export function PdfPages({ address, title }: { readonly address: string; readonly title: string }) {
  const scroller = useRef<HTMLDivElement>(null);
  const [pages, setPages] = useState(0);
  const [step, setStep] = useState(2);
  const width = widths[step] ?? 760;
  const virtual = useVirtualizer({
    count: pages,
    getScrollElement: () => scroller.current,
    estimateSize: () => width * a4 + 16,
    overscan: 1,
  });
  const items = virtual.getVirtualItems();
  const current = Math.min(pages, (items.find((item) => item.end > (virtual.scrollOffset ?? 0) + 80)?.index ?? 0) + 1);

  return (
    <div className="flex h-full flex-col">
      <div className="no-print flex items-center justify-center gap-2 border-b border-line bg-fog py-1">
        <span role="status" className="figures text-sm text-soft">
          {pages === 0 ? 'Opening…' : `Page ${current} of ${pages}`}
        </span>
        <Button disabled={step === 0} onClick={() => setStep(step - 1)}>
          Smaller
        </Button>
        <Button disabled={step === widths.length - 1} onClick={() => setStep(step + 1)}>
          Larger
        </Button>
      </div>
      <div
        ref={scroller}
        tabIndex={0}
        role="region"
        aria-label={`Pages of ${title}`}
        className="min-h-0 flex-1 overflow-auto"
      >
        <Document
          file={address}
          options={options}
          onLoadSuccess={({ numPages }) => setPages(numPages)}
          loading={<p className="p-6 text-soft">Opening the paper…</p>}
          error={
            <p className="p-6">
              This PDF cannot be shown: it may be protected or damaged. Download it to open it in another program.
            </p>
          }
        >
          <div className="relative mx-auto" style={{ height: virtual.getTotalSize(), width }}>
            {items.map(({ index, start }) => (
              <div
                key={index}
                ref={virtual.measureElement}
                data-index={index}
                className="absolute left-0 pt-4"
                style={{ top: start }}
              >
                <Page
                  pageNumber={index + 1}
                  width={width}
                  renderTextLayer={false}
                  renderAnnotationLayer={false}
                  className="border border-line shadow-sm"
                />
              </div>
            ))}
          </div>
        </Document>
      </div>
    </div>
  );
}
