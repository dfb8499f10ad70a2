/**
 * Gives the papers of a measured library texts of real sentences (`manual.ts`) of some 390 words each, indexed as reading
 * indexes them, or finds them again. Beside the index: the same texts as PostgreSQL's own full text has them, and as a file.
 */
import { createHash } from 'node:crypto';
import { createWriteStream, existsSync } from 'node:fs';
import { once } from 'node:events';
import path from 'node:path';
import { Pool } from 'pg';
import { Chance } from '@/core/chance/chance';
import { tokensIn } from '@/core/search/analyse';
import { blockOf, type Entry } from '@/core/search/postings';
import { manualPages } from './manual';

const wordsEach = 386;
/** Texts in one segment. */
const segmentTexts = 4000;
const rowsAtATime = 4000;

interface Sentence {
  readonly text: string;
  readonly tokens: readonly { readonly term: string; readonly position: number }[];
  readonly words: number;
}

/** The manual's sentences of a length that people write. */
function sentences(): Sentence[] {
  return manualPages()
    .flatMap(({ text }) => text.replace(/\s+/gu, ' ').split(/(?<=[.!?])\s+(?=\p{Lu})/u))
    .filter((text) => text.length > 30 && text.length < 400)
    .map((text) => {
      const tokens = [...tokensIn(text, 'en')];
      return { text, tokens, words: Math.max(0, ...tokens.map(({ position }) => position + 1)) };
    });
}

/** Where the texts are, one paper a line. */
export const textsFile = (papers: number): string =>
  path.join(process.env['STATE'] ?? '/tmp', `bench-texts-${papers}.txt`);

/** Gives each paper its text; answers how long indexing took, or null where they have them. */
export async function givenTexts(papers: number, connectionString: string): Promise<number | null> {
  const pool = new Pool({ connectionString, max: 1 });
  const { rows: there } = await pool.query<{ count: string }>('select count(*) from search_text');
  if (Number(there[0]?.count) === papers && existsSync(textsFile(papers))) {
    await pool.end();
    return null;
  }
  const all = sentences();
  const chance = new Chance(20_261_127);
  await pool.query('create table if not exists bench_text (document_id uuid primary key, body text, words tsvector)');
  const { rows: ids } = await pool.query<{ id: string }>('select id::text from document order by id');
  const file = createWriteStream(textsFile(papers));
  const began = performance.now();
  let indexedMs = 0;
  for (let from = 0; from < ids.length; from += segmentTexts) {
    const postings = new Map<string, Entry[]>();
    const some = ids.slice(from, from + segmentTexts).map(({ id }, at) => {
      const number = from + at + 1;
      const parts: string[] = [`INV-20${10 + (number % 16)}-${String(number).padStart(7, '0')}.`];
      const places = new Map<string, number[]>();
      let length = 0;
      const add = (tokens: Sentence['tokens'], words: number) => {
        for (const { term, position } of tokens) {
          const there = places.get(term);
          if (there) there.push(length + position);
          else places.set(term, [length + position]);
        }
        length += words;
      };
      add([...tokensIn(parts[0] ?? '', 'en')], 4);
      while (length < wordsEach) {
        const sentence = chance.pick(all);
        parts.push(sentence.text);
        add(sentence.tokens, sentence.words);
      }
      for (const [term, positions] of places) {
        const entry = { number, positions: [...new Set(positions)].sort((one, other) => one - other) };
        const entries = postings.get(term);
        if (entries) entries.push(entry);
        else postings.set(term, [entry]);
      }
      return { id, number, length, body: parts.join(' ') };
    });
    const start = performance.now();
    const shas = some.map(({ id }) => createHash('sha256').update(id).digest('hex'));
    await pool.query('begin');
    await pool.query(
      `insert into blob (sha256, content_id, size_bytes) select sha, gen_random_uuid(), 1 from unnest($1::text[]) as sha`,
      [shas],
    );
    await pool.query(
      `insert into version (document_id, number, sha256, file_name, media_type, stamp, size_bytes, made_by, made_at)
       select id, 1, sha, 'file', 'text/plain', 'TEXT', 1, filed_by, filed_at
       from unnest($1::uuid[], $2::text[]) as given (id, sha) join document using (id)`,
      [some.map(({ id }) => id), shas],
    );
    await pool.query(
      `insert into search_text (sha256, number, language, length)
       select sha, number, 'en', length from unnest($1::text[], $2::int[], $3::int[]) as given (sha, number, length)`,
      [shas, some.map(({ number }) => number), some.map(({ length }) => length)],
    );
    await pool.query('insert into search_segment (segment, texts) values ($1, $2)', [from + 1, some.length]);
    const rows = [...postings].map(([term, entries]) => ({ term, texts: entries.length, ...blockOf(entries) }));
    for (let at = 0; at < rows.length; at += rowsAtATime) {
      const piece = rows.slice(at, at + rowsAtATime);
      await pool.query(
        `insert into search_post (term, segment, texts, docs, pos)
         select term, $1, texts, docs, pos from unnest($2::text[], $3::int[], $4::bytea[], $5::bytea[]) as given (term, texts, docs, pos)`,
        [
          from + 1,
          piece.map(({ term }) => term),
          piece.map(({ texts }) => texts),
          piece.map(({ docs }) => Buffer.from(docs)),
          piece.map(({ pos }) => Buffer.from(pos)),
        ],
      );
    }
    await pool.query('commit');
    indexedMs += performance.now() - start;
    await pool.query(
      `insert into bench_text select id, body, setweight(to_tsvector('english', title), 'A') || to_tsvector('english', body)
       from unnest($1::uuid[], $2::text[]) as given (id, body) join document using (id)`,
      [some.map(({ id }) => id), some.map(({ body }) => body)],
    );
    if (!file.write(some.map(({ body }) => `${body}\n`).join(''))) await once(file, 'drain');
    process.stderr.write(
      `\r${Math.min(ids.length, from + segmentTexts)} papers, ${Math.round((performance.now() - began) / 1000)} s`,
    );
  }
  file.end();
  await once(file, 'finish');
  await pool.query('update document set version_id = version.id from version where version.document_id = document.id');
  await pool.query('create index on bench_text using gin (words)');
  await pool.query('delete from tally_change');
  await pool.query('vacuum analyze');
  await pool.end();
  process.stderr.write('\n');
  return indexedMs;
}
