/** Runs once when the server starts: measurements that were under way go on. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || !process.env.DIALTUNE_DATABASE_URL) return;
  const { measuringPool, resumeMeasuring } = await import('@/server/measuring/measuringPool.ts');
  measuringPool();
  // A database that is away now must not keep the server from starting: the pool looks again.
  await resumeMeasuring().catch((error) => console.error(error));
}
