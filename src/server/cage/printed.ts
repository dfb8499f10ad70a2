import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { inFolder, madeBytes } from './file';
import { convertOffice } from './office';

/** A web page of ours as a PDF. @throws if the office program cannot make it */
export async function printedPage(page: string): Promise<Buffer> {
  const made = await inFolder(async (folder) => {
    const file = path.join(folder, 'page.html');
    await writeFile(file, page);
    const end = await convertOffice(file, 'HTML (StarWriter)', 'pages', 'made');
    return end === 'done' ? madeBytes(path.join(folder, 'made')) : null;
  });
  if (made === null) throw new Error('The page could not be printed');
  return made;
}
