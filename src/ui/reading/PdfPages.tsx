'use client';

import { useMemo, useState } from 'react';
import { Document, Page, pdfjs } from 'react-pdf';
import 'react-pdf/dist/Page/TextLayer.css';
import { PageList } from './PageList';
import { outlineOf, type OutlineEntry } from './outline';
import type { Source } from './source';

pdfjs.GlobalWorkerOptions.workerSrc = new URL('pdfjs-dist/build/pdf.worker.min.mjs', import.meta.url).toString();

const options = {
  cMapUrl: '/pdfjs/cmaps/',
  standardFontDataUrl: '/pdfjs/standard_fonts/',
  wasmUrl: '/pdfjs/wasm/',
  // Only the parts that the pages in sight need are fetched, however large the paper is.
  disableAutoFetch: true,
  disableStream: true,
  rangeChunkSize: 65_536,
};

/** The pages of a PDF, or of what was made into one. */
export function PdfPages({
  source,
  startAt,
  onDrawn,
}: {
  readonly source: Source;
  readonly startAt: number;
  /** Told when a page is drawn, or that none can be. */
  readonly onDrawn: () => void;
}) {
  const [opened, setOpened] = useState<{ pages: number; ratio: number; outline: readonly OutlineEntry[] } | null>(null);
  const address = source.address({ form: 'pages' });
  const file = useMemo(() => ({ url: address }), [address]);
  return (
    <Document
      file={file}
      options={options}
      className="h-full"
      onLoadError={onDrawn}
      onLoadSuccess={(pdf) => {
        void (async () => {
          const { view } = await pdf.getPage(1);
          const [left = 0, bottom = 0, right = 1, top = 1] = view;
          const opening = { pages: pdf.numPages, ratio: (top - bottom) / (right - left) };
          // The first page does not wait for the contents list, whose pages lie all over the file.
          setOpened({ ...opening, outline: [] });
          const outline = await outlineOf(pdf);
          setOpened({ ...opening, outline });
        })();
      }}
      loading={<p className="p-6 text-soft">Opening the paper…</p>}
      error={
        <p className="p-6">
          This paper cannot be shown here: it may be protected or damaged. Download it to open it in another program.
        </p>
      }
    >
      {opened && (
        <PageList
          source={source}
          pages={opened.pages}
          startAt={startAt}
          firstRatio={opened.ratio}
          outline={opened.outline}
          draw={(page, width, turned) => (
            <Page
              key={`${page}-${width}-${turned}`}
              pageNumber={page}
              width={width}
              {...(turned === 0 ? {} : { rotate: turned })}
              renderAnnotationLayer={false}
              onRenderSuccess={onDrawn}
              onRenderError={onDrawn}
              loading={<div className="bg-white" style={{ width, height: width * opened.ratio }} />}
            />
          )}
        />
      )}
    </Document>
  );
}
