import { readFile } from 'node:fs/promises';
import { PDFArray, PDFDocument, PDFHexString, PDFName, PDFNumber, PDFString, type PDFPage } from '@cantoo/pdf-lib';
import { DEFAULT_BYTE_RANGE_PLACEHOLDER, SUBFILTER_ETSI_CADES_DETACHED } from '@signpdf/utils';
import type { TaskInput, TaskResult } from '@/server/cage/tasks';
import { contentFile, type Written } from './written';

/** Room for a seal, in bytes: a certificate with a key of 3072 bits and its signature are a third of this. */
const sealBytes = 8192;

/** Puts the page of signatures behind the pages that were signed, or what was signed into it, with room for a seal. */
export async function bindSignatures(
  { page, attachAs, title, sealedBy, at }: TaskInput<'bind'>,
  written: Written,
): Promise<TaskResult<'bind'>> {
  const content = await readFile(contentFile);
  const bound = await PDFDocument.create();
  const made = new Date(at);
  bound.setTitle(title);
  bound.setProducer(sealedBy);
  bound.setCreationDate(made);
  bound.setModificationDate(made);
  if (attachAs === null) {
    // Pages alone are taken over: what runs when a file is opened, its forms and older seals stay behind.
    const copied = await pagesOf(bound, content).catch(() => null);
    if (copied === null || copied.length === 0) return null;
    for (const each of copied) bound.addPage(each);
  }
  for (const each of await pagesOf(bound, Buffer.from(page, 'base64'))) bound.addPage(each);
  if (attachAs !== null) await bound.attach(content, attachAs.name, { mimeType: attachAs.mediaType });
  makeRoom(bound, sealedBy, made);
  // Without streams of objects, so that the room for the seal stands in the file as it is.
  await written.file('bound', await bound.save({ useObjectStreams: false }));
  return { pages: bound.getPageCount() };
}

async function pagesOf(bound: PDFDocument, bytes: Uint8Array): Promise<PDFPage[]> {
  const source = await PDFDocument.load(bytes);
  return bound.copyPages(source, source.getPageIndices());
}

/** A signature field (ISO 32000-2, 12.7.5.5) without a look of its own, of the kind of ETSI EN 319 142-1. */
function makeRoom(bound: PDFDocument, sealedBy: string, at: Date): void {
  const { context } = bound;
  const range = PDFArray.withContext(context);
  range.push(PDFNumber.of(0));
  for (let each = 0; each < 3; each += 1) range.push(PDFName.of(DEFAULT_BYTE_RANGE_PLACEHOLDER));
  const seal = context.register(
    context.obj({
      Type: 'Sig',
      Filter: 'Adobe.PPKLite',
      SubFilter: SUBFILTER_ETSI_CADES_DETACHED,
      ByteRange: range,
      Contents: PDFHexString.of('0'.repeat(sealBytes * 2)),
      Name: PDFHexString.fromText(sealedBy),
      M: PDFString.fromDate(at),
    }),
  );
  const page = bound.getPage(bound.getPageCount() - 1);
  const field = context.register(
    context.obj({
      Type: 'Annot',
      Subtype: 'Widget',
      FT: 'Sig',
      Rect: [0, 0, 0, 0],
      V: seal,
      T: PDFString.of('Seal'),
      F: 132,
      P: page.ref,
    }),
  );
  page.node.addAnnot(field);
  bound.catalog.set(PDFName.of('AcroForm'), context.obj({ SigFlags: 3, Fields: [field] }));
}
