/** How long answers under way may take to end once the process is told to stop; what is cut off is asked for again. */
const patienceMs = 5_000;

/**
 * Runs once as the web process starts: the library begins to be read before anyone asks. Told to stop, the process lets go of
 * open pages, and waits no longer than it must for connections that browsers keep open for nothing.
 */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const { startTally } = await import('@/server/tally/host');
  startTally();
  const { endListening } = await import('@/server/live/hub');
  for (const signal of ['SIGTERM', 'SIGINT'])
    process.on(signal, () => {
      endListening();
      setTimeout(() => process.exit(0), patienceMs).unref();
    });
}

/**
 * What a page that could not be made says to the log, under the number that its reader is shown. Next.js gives that number; a
 * refusal that belongs to the page itself never comes here.
 */
export async function onRequestError(error: unknown, request: { readonly path: string }): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const { logFault } = await import('@/server/log/fault');
  const digest =
    error instanceof Error && 'digest' in error && typeof error.digest === 'string' ? error.digest : undefined;
  // The path's own ids say which page it was; its query would say what was looked for.
  logFault(error, { where: request.path.split('?')[0] ?? '' }, digest);
}
