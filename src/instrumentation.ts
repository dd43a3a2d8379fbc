/** Runs once when the server starts: measurements that were under way go on. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs' || !process.env.DIALTUNE_DATABASE_URL) return;
  const { resumeMeasuring } = await import('./server/measuringPool.ts');
  await resumeMeasuring();
}
