import path from 'node:path';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { writableOutside } from './client';

/** Applies the committed migrations, in order, each once. */
export async function migrateDatabase(): Promise<void> {
  await migrate(writableOutside(), { migrationsFolder: path.join(process.cwd(), 'drizzle') });
}
