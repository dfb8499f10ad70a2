import { expose } from 'comlink';
import { NotUnpacked, unpackArchive, type UnpackedArchive } from './unpackArchive';

/** Unpacks an archive away from the screen's thread; answers in words what is wrong with it as a whole. */
async function unpackFile(
  archive: File,
  tell: (done: number, of: number) => void,
): Promise<UnpackedArchive | { readonly refused: string }> {
  try {
    return await unpackArchive(archive, tell);
  } catch (error) {
    if (error instanceof NotUnpacked) return { refused: error.message };
    throw error;
  }
}

export type UnpackFile = typeof unpackFile;

expose(unpackFile);
