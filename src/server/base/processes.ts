import path from 'node:path';

/** How Node runs one of our own processes or threads. */
export interface Program {
  readonly file: string;
  /** Words for Node before the file. */
  readonly nodeWords: readonly string[];
}

/**
 * A program by its source file (`worker/reader.ts`): bundled, where the start command has bundled it and said where
 * (`EMBRIN_PROCESSES`), else from source through a loader.
 */
export function programOf(source: string): Program {
  const bundled = process.env['EMBRIN_PROCESSES'];
  if (bundled === undefined || bundled === '')
    return { file: path.join(/* turbopackIgnore: true */ process.cwd(), source), nodeWords: ['--import', 'tsx'] };
  return { file: path.join(/* turbopackIgnore: true */ bundled, source.replace(/\.ts$/u, '.mjs')), nodeWords: [] };
}
