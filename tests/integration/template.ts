import { Pool } from 'pg';

/** Makes the database that every test database is a copy of: migrated, with the queue's tables, and a founded library. */
export default async function makeTemplate(): Promise<void> {
  const address = process.env['DATABASE_URL'];
  if (!address) throw new Error('DATABASE_URL names the test cluster; run the tests with npm test');
  const admin = new Pool({ connectionString: address });
  await admin.query('drop database if exists embrin_template with (force)');
  await admin.query('create database embrin_template');
  await admin.end();
  const own = new URL(address);
  own.pathname = '/embrin_template';
  process.env['DATABASE_URL'] = own.href;
  // Loaded only now: they read the address when they are first used.
  const { migrateDatabase } = await import('../../src/server/db/migrate');
  const { disconnect } = await import('../../src/server/db/client');
  const { queue, stopQueue } = await import('../../src/server/jobs/queue');
  await migrateDatabase();
  await queue();
  await stopQueue();
  await disconnect();
  process.env['DATABASE_URL'] = address;
}
