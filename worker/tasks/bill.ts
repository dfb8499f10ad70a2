import { readInvoice } from '@/core/invoices/read';
import type { TaskResult } from '@/server/cage/tasks';
import { decodedText } from './decoded';
import { contentFile } from './written';

/** More is no bill. In bytes. */
const mostBytes = 8_000_000;

/** A bill as data (EN 16931); null for any other text. */
export async function readBill(): Promise<TaskResult<'bill'>> {
  const { text, cut } = await decodedText(contentFile, mostBytes, 'asNamed');
  return cut ? null : readInvoice(text);
}
