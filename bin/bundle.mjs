/**
 * Bundles the processes that run beside the built pages, one file each with shared parts: `node bin/bundle.mjs FOLDER`. They
 * then start without a loader that translates each module anew. Packages stay where they are.
 */
import { build } from 'esbuild';

const outdir = process.argv[2];
if (!outdir) throw new Error('bundle.mjs FOLDER');
await build({
  entryPoints: [
    'bin/migrate.ts',
    'src/demo/main.ts',
    'worker/main.ts',
    'worker/reader.ts',
    'worker/supervisor.ts',
    'worker/tally.ts',
    'worker/web.ts',
  ],
  outdir,
  outbase: '.',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  splitting: true,
  format: 'esm',
  platform: 'node',
  target: 'node20',
  packages: 'external',
  // The log tells where a fault happened by the names of functions.
  keepNames: true,
  logLevel: 'warning',
});

// What browsers load as a script of its own.
await build({
  entryPoints: { worker: 'src/ui/offline/worker.ts' },
  outdir: `${outdir}/offline`,
  bundle: true,
  format: 'iife',
  platform: 'browser',
  target: 'es2022',
  logLevel: 'warning',
});
