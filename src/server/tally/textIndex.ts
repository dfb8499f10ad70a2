import { readPostings, type Postings } from '@/core/search/postings';
import { TermList } from '@/core/search/termList';
import { rowsOf, type Connection } from './read';

/** Where a term is: its segments with how many of their texts have it. A segment that grew by a merge is another. */
interface Kept {
  readonly segments: string;
  /** The index as it was when this was found to be current. */
  readonly as: string;
  readonly sizeBytes: number;
  readonly postings: Postings;
}

/** So much of the index is kept in memory; the term that was needed longest ago goes first. */
const mostBytes = 128 * 1024 * 1024;
/** Positions, once they are read, and numbers take about so many bytes for each byte that is stored. */
const expansion = 6;
/** A term takes so many, whatever it has. */
const leastBytes = 400;
/** What no text has. */
const nothing = readPostings(new Uint8Array(), new Uint8Array());

/**
 * The part of the index of texts that questions have needed, read from the database as they come. What it has of a text
 * that is gone answers nothing: the tally does not know its number.
 */
export class KeptTextIndex {
  readonly terms = new TermList();
  readonly #kept = new Map<string, Kept>();
  #bytes = 0;
  /** Which segments there are: what was current then is current as long as they are the same. */
  #as = '';

  postings = (term: string): Postings | null => this.#kept.get(term)?.postings ?? null;

  /** Reads the terms of texts that came since, for beginnings, parts and near words. */
  async catchUp(connection: Connection): Promise<void> {
    const segments = await rowsOf<[number, number]>(
      connection,
      'select segment, texts from search_segment order by segment',
      [],
    );
    this.#as = JSON.stringify(segments);
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
    const wanted = new Set(terms);
    const asked = [...wanted].filter((term) => this.#kept.get(term)?.as !== this.#as);
    // Puts the others last: the first is the one that goes.
    for (const term of wanted) {
      const kept = this.#kept.get(term);
      if (kept?.as !== this.#as) continue;
      this.#kept.delete(term);
      this.#kept.set(term, kept);
    }
    const missing = asked.length === 0 ? [] : await this.#outdated(connection, asked);
    if (missing.length > 0) await this.#read(connection, missing);
    for (const [term, { sizeBytes }] of this.#kept) {
      if (this.#bytes <= mostBytes) break;
      if (wanted.has(term)) continue;
      this.#kept.delete(term);
      this.#bytes -= sizeBytes;
    }
  }

  /** Which of some terms have to be read; those that are current are noted as such. */
  async #outdated(connection: Connection, terms: readonly string[]): Promise<string[]> {
    const rows = await rowsOf<[string, string]>(
      connection,
      `select term, string_agg(segment || ':' || texts, ' ' order by segment) from search_post
       where term = any($1::text[]) group by term`,
      [terms],
      'segments of terms',
    );
    const current = new Map(rows);
    return terms.filter((term) => {
      const kept = this.#kept.get(term);
      const segments = current.get(term) ?? '';
      if (kept) this.#kept.delete(term);
      if (kept?.segments === segments) {
        this.#kept.set(term, { ...kept, as: this.#as });
        return false;
      }
      this.#bytes -= kept?.sizeBytes ?? 0;
      if (segments === '') {
        this.#bytes += leastBytes;
        this.#kept.set(term, { segments, as: this.#as, sizeBytes: leastBytes, postings: nothing });
      }
      return segments !== '';
    });
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
      const sizeBytes = leastBytes + (docs.length + pos.length) * expansion;
      this.#kept.set(term, { segments, as: this.#as, sizeBytes, postings: readPostings(docs, pos) });
      this.#bytes += sizeBytes;
    }
  }
}
