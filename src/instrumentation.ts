/** Runs once as the web process starts: the library begins to be read before anyone asks. */
export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const { startTally } = await import('@/server/views/tally/host');
  startTally();
}
