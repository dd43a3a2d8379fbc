/** The next channel as it was read off an analyser, beside the other meters. */
import type { Sequelize } from 'sequelize';

export async function up({ context }: { context: Sequelize }): Promise<void> {
  await context.query('ALTER TABLE readings ADD COLUMN IF NOT EXISTS adjacent_db DOUBLE NULL');
}
