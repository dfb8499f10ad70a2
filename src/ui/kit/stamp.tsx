import type { Stamp as StampWord } from '@/core/files/fileKind';

const spoken: Record<StampWord, string> = {
  PDF: 'PDF',
  DOC: 'Text document',
  SHEET: 'Spreadsheet',
  SLIDES: 'Slides',
  SCAN: 'Scan',
  IMAGE: 'Image',
  MAIL: 'Mail',
  TEXT: 'Plain text',
  ARCHIVE: 'Archive',
  LINK: 'Link',
};

/** The kind of a paper as a short word in a small outlined stamp. */
export function Stamp({ word }: { readonly word: StampWord }) {
  return (
    <span
      title={spoken[word]}
      className="inline-flex h-[17px] items-center justify-center rounded-[3px] border border-edge px-1 font-condensed text-[10.5px] leading-none tracking-wide text-soft"
    >
      {word === 'ARCHIVE' ? 'ZIP' : word}
    </span>
  );
}
