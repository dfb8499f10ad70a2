import path from 'node:path';
import { pathToFileURL } from 'node:url';

/** How Node runs one of our own processes or threads. */
export interface Program {
  readonly file: string;
  /** Words for Node before the file. */
  readonly nodeWords: readonly string[];
  /** Files and folders that it reads: its own code, its packages, Node. */
  readonly reads: readonly string[];
}

const inProject = (name: string): string => path.join(/* turbopackIgnore: true */ process.cwd(), name);

/**
 * A program by its source file (`worker/reader.ts`): bundled, where the start command has bundled it and said where
 * (`EMBRIN_PROCESSES`), else from source through a loader.
 */
export function programOf(source: string): Program {
  const bundled = process.env['EMBRIN_PROCESSES'];
  const reads = [path.dirname(process.execPath), inProject('node_modules'), inProject('package.json')];
  if (bundled === undefined || bundled === '')
    return {
      file: inProject(source),
      // By its whole path: the program need not be started in the project's folder.
      nodeWords: ['--import', pathToFileURL(inProject('node_modules/tsx/dist/loader.mjs')).href],
      reads: [...reads, ...['src', 'worker', 'tsconfig.json'].map(inProject)],
    };
  return {
    file: path.join(/* turbopackIgnore: true */ bundled, source.replace(/\.ts$/u, '.mjs')),
    nodeWords: [],
    reads: [...reads, bundled],
  };
}
