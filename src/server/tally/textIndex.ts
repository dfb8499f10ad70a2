import { readPostings, type Postings } from '@/core/search/postings';
import { TermList } from '@/core/search/termList';
import { rowsOf, type Connection } from './read';

/** Where a term is: its segments with how many of their texts have it. A segment that grew by a merge is another. */
interface Kept {
  readonly segments: string;
  readonly sizeBytes: number;
  readonly postings: Postings;
}

/** So much of the index is kept in memory; the term that was needed longest ago goes first. */
const mostBytes = 128 * 1024 * 1024;
/** Positions, once they are read, and numbers take about so many bytes for each byte that is stored. */
const expansion = 6;

/**
 * The part of the index of texts that questions have needed, read from the database as they come. What it has of a text
 * that is gone answers nothing: the tally does not know its number.
 */
export class KeptTextIndex {
  readonly terms = new TermList();
  readonly #kept = new Map<string, Kept>();
  #bytes = 0;

  postings = (term: string): Postings | null => this.#kept.get(term)?.postings ?? null;

  /** Reads the terms of texts that came since, for beginnings, parts and near words. */
  async catchUp(connection: Connection): Promise<void> {
    const segments = await rowsOf<[number, number]>(connection, 'select segment, texts from search_segment', []);
    const fresh = segments.filter(([segment, texts]) => segment + texts > this.terms.upTo).map(([segment]) => segment);
    if (fresh.length === 0) return;
    const whole = fresh.length === segments.length;
    const found = await rowsOf<[string, number]>(
      connection,
      `select term, sum(texts)::int from search_post where $1::boolean or segment = any($2::int[]) group by term`,
      [whole, whole ? [] : fresh],
    );
    this.terms.add(found);
    this.terms.upTo = Math.max(...segments.map(([segment, texts]) => segment + texts));
  }

  /** Sees to it that the postings of some terms are there and current. */
  async have(connection: Connection, terms: readonly string[]): Promise<void> {
    if (terms.length === 0) return;
    const wanted = [...new Set(terms)];
    const there = await rowsOf<[string, string]>(
      connection,
      `select term, string_agg(segment || ':' || texts, ' ' order by segment) from search_post
       where term = any($1::text[]) group by term`,
      [wanted],
      'segments of terms',
    );
    const current = new Map(there);
    const missing = wanted.filter((term) => {
      const kept = this.#kept.get(term);
      if (!kept) return current.has(term);
      // Puts it last: the first is the one that goes.
      this.#kept.delete(term);
      if (kept.segments === current.get(term)) {
        this.#kept.set(term, kept);
        return false;
      }
      this.#bytes -= kept.sizeBytes;
      return current.has(term);
    });
    if (missing.length > 0) await this.#read(connection, missing);
    for (const [term, { sizeBytes }] of this.#kept) {
      if (this.#bytes <= mostBytes) break;
      if (wanted.includes(term)) continue;
      this.#kept.delete(term);
      this.#bytes -= sizeBytes;
    }
  }

  async #read(connection: Connection, terms: readonly string[]): Promise<void> {
    const rows = await rowsOf<[string, string, Buffer, Buffer]>(
      connection,
      `select term, string_agg(segment || ':' || texts, ' ' order by segment),
         string_agg(docs, ''::bytea order by segment), string_agg(pos, ''::bytea order by segment)
       from search_post where term = any($1::text[]) group by term`,
      [terms],
      'postings of terms',
    );
    for (const [term, segments, docs, pos] of rows) {
      const sizeBytes = (docs.length + pos.length) * expansion;
      this.#kept.set(term, { segments, sizeBytes, postings: readPostings(docs, pos) });
      this.#bytes += sizeBytes;
    }
  }
}
