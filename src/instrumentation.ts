/** How long answers under way may take to end once the process is told to stop; what is cut off is asked for again. */
const patienceMs = 5_000;

/**
 * Runs once as the web process starts: the library begins to be read before anyone asks. Told to stop, the process lets go of
 * open pages, and waits no longer than it must for connections that browsers keep open for nothing.
 */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const { startTally } = await import('@/server/views/tally/host');
  startTally();
  const { endListening } = await import('@/server/live/hub');
  for (const signal of ['SIGTERM', 'SIGINT'])
    process.on(signal, () => {
      endListening();
      setTimeout(() => process.exit(0), patienceMs).unref();
    });
}
