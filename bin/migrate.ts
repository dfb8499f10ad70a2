/** Brings the database at DATABASE_URL up to date with the migrations in drizzle/. Safe to run at any time. */
import { disconnect } from '@/server/db/client';
import { migrateDatabase } from '@/server/db/migrate';

await migrateDatabase();
await disconnect();
