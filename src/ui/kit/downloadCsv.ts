import { writeCsv } from '@/core/interchange/block';

/** Hands a table to the browser as a CSV file to be kept. */
export function downloadCsv(fileName: string, cells: readonly (readonly string[])[]): void {
  const url = URL.createObjectURL(new Blob([writeCsv(cells, true)], { type: 'text/csv' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  URL.revokeObjectURL(url);
}
