import { stat } from 'node:fs/promises';
import type { Invoice } from '@/core/invoices/model';
import { CagedFault } from '../cage/limits';
import { inFolder } from '../cage/file';
import { runProgram } from '../cage/program';
import { readCaged } from '../cage/reader';
import { OpenContent, type ReadContent } from '../extraction/openContent';

/** What the data of a bill is called inside of its PDF (Factur-X 1.0, ZUGFeRD 1 and 2, and XRechnung in a PDF). */
const dataNames = /^\s*(?<at>\d+): (?:factur-x|zugferd-invoice|xrechnung)\.xml$/imu;

/** The bill that some content is, or has inside of its PDF, as data; null where it is none, or cannot be read. */
export async function billIn(content: ReadContent): Promise<Invoice | null> {
  const { mediaType } = content;
  if (mediaType !== 'application/xml' && mediaType !== 'application/pdf') return null;
  return inFolder(async (folder) => {
    const file = await new OpenContent(content, folder, false).file();
    const data = mediaType === 'application/xml' ? file : await attachedData(file, folder);
    return data === null ? null : readCaged('bill', data, {});
  }).catch((error: unknown) => {
    if (!(error instanceof CagedFault)) throw error;
    return null;
  });
}

/** The data that is attached to a PDF, as a file in the folder. */
async function attachedData(pdf: string, folder: string): Promise<string | null> {
  const listed = await runProgram('pdfdetach', ['-list', pdf], folder);
  const at = listed.ok ? dataNames.exec(listed.printed)?.groups?.['at'] : undefined;
  if (at === undefined) return null;
  const data = `${folder}/bill.xml`;
  const taken = await runProgram('pdfdetach', ['-save', at, '-o', data, pdf], folder);
  const isThere = await stat(data).then(
    (file) => file.isFile(),
    () => false,
  );
  return taken.ok && isThere ? data : null;
}
