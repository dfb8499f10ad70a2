import type { PDFDocumentProxy } from 'pdfjs-dist';

/** An entry of the contents list that a file brings along. */
export interface OutlineEntry {
  readonly title: string;
  readonly page: number;
  readonly depth: number;
}

const mostEntries = 500;
type Node = Awaited<ReturnType<PDFDocumentProxy['getOutline']>>[number];

/** The contents list of a PDF, in order. Entries that lead nowhere in it are left out. */
export async function outlineOf(pdf: PDFDocumentProxy): Promise<readonly OutlineEntry[]> {
  const entries: OutlineEntry[] = [];
  const add = async (nodes: readonly Node[], depth: number): Promise<void> => {
    for (const node of nodes) {
      if (entries.length >= mostEntries) return;
      const page = await pageOf(pdf, node.dest);
      if (page !== null && node.title.trim() !== '') entries.push({ title: node.title.trim(), page, depth });
      await add((node.items as readonly Node[] | undefined) ?? [], depth + 1);
    }
  };
  // The types say that there always is one.
  await add(((await pdf.getOutline().catch(() => null)) as readonly Node[] | null) ?? [], 0);
  return entries;
}

async function pageOf(pdf: PDFDocumentProxy, destination: Node['dest']): Promise<number | null> {
  try {
    const explicit = typeof destination === 'string' ? await pdf.getDestination(destination) : destination;
    const target: unknown = explicit?.[0];
    if (typeof target === 'number') return target + 1;
    return target === null || target === undefined ? null : (await pdf.getPageIndex(target as never)) + 1;
  } catch {
    return null;
  }
}
