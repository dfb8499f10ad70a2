/** Makes the database that every test database is a copy of: migrated, and with the queue's tables. */
import { Pool } from 'pg';
import { disconnect } from '@/server/db/client';
import { migrateDatabase } from '@/server/db/migrate';
import { queue, stopQueue } from '@/server/jobs/queue';

const address = process.env['DATABASE_URL'];
if (!address) throw new Error('DATABASE_URL names the test cluster; run the tests with npm test');
const admin = new Pool({ connectionString: address });
await admin.query('drop database if exists embrin_template with (force)');
await admin.query('create database embrin_template');
await admin.end();
const own = new URL(address);
own.pathname = '/embrin_template';
// Read by the connections when they are first used.
process.env['DATABASE_URL'] = own.href;
await migrateDatabase();
await queue();
await stopQueue();
await disconnect();
