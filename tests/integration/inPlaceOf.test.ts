import { Pool } from 'pg';
import { inPlaceOf } from '@/demo/inPlaceOf';

const cluster = process.env['EMBRIN_TEST_CLUSTER'] ?? process.env['DATABASE_URL'] ?? '';
const at = (database: string): string => {
  const own = new URL(cluster);
  own.pathname = `/${database}`;
  return own.href;
};
const name = `embrin_place_${process.pid}`;

async function asked<T extends object>(database: string, words: string): Promise<readonly T[]> {
  const pool = new Pool({ connectionString: at(database), max: 1 });
  try {
    return (await pool.query<T>(words)).rows;
  } finally {
    await pool.end();
  }
}
const build = (words: string) => async (address: string) => {
  await asked(new URL(address).pathname.slice(1), words);
};
const titles = () => asked('postgres', `select datname from pg_database where datname like '${name}%' order by 1`);

beforeAll(async () => {
  await asked('postgres', `create database ${name}`);
  await asked(name, 'create table paper (title text)');
});
afterAll(async () => {
  for (const each of [name, `${name}_making`]) await asked('postgres', `drop database if exists ${each} with (force)`);
});

it('what is built half-way leaves the database as it was, and the next time begins anew', async () => {
  const half = inPlaceOf(at(name), async (address) => {
    await build(`insert into paper values ('half')`)(address);
    throw new Error('The process died');
  });
  await expect(half).rejects.toThrow('The process died');
  expect(await asked(name, 'select title from paper')).toEqual([]);
  await inPlaceOf(at(name), build(`insert into paper values ('whole')`));
  expect(await asked(name, 'select title from paper')).toEqual([{ title: 'whole' }]);
  expect(await titles()).toEqual([{ datname: name }]);
});

it('nothing takes the place of a database to which somebody is connected', async () => {
  const there = new Pool({ connectionString: at(name), max: 1 });
  const client = await there.connect();
  const late = inPlaceOf(at(name), build('select 1'));
  await expect(late).rejects.toThrow(/being accessed by other users/u);
  client.release();
  await there.end();
  expect(await asked(name, 'select title from paper')).toEqual([{ title: 'whole' }]);
});
