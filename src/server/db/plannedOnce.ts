import { createHash } from 'node:crypto';
import { sql } from 'drizzle-orm';
import { Client, type ClientConfig } from 'pg';
import { remembered } from '@/core/collections/remembered';

const mark = '/* planned once */';

/**
 * Stands among the conditions of a statement that is asked all the time and that is best done in one way whatever is
 * asked: rows by their ids, names. Each connection then keeps its plan, which for the gate's conditions takes longer to
 * make than to carry out. Not for statements over places or papers at large: those depend on how many there are.
 */
export const plannedOnce = sql.raw(`${mark} true`);

// There are few such statements: they differ by who asks (a keeper, others, someone shown what others see).
const nameOf = remembered((text: string) => createHash('sha256').update(text).digest('base64url'));

interface Statement {
  readonly text?: unknown;
  readonly name?: unknown;
  readonly submit?: unknown;
}

function named(first: unknown): unknown {
  if (typeof first !== 'object' || first === null) return first;
  const { text, name, submit } = first as Statement;
  const isMarked = typeof text === 'string' && name === undefined && submit === undefined && text.includes(mark);
  return isMarked ? { ...first, name: nameOf(text) } : first;
}

/** A connection that prepares marked statements under a name (PostgreSQL, "PREPARE"), at their first use. */
export class PlanKeepingClient extends Client {
  constructor(settings?: string | ClientConfig) {
    super(settings);
    const ask = this.query.bind(this) as (...all: unknown[]) => unknown;
    this.query = ((first: unknown, ...rest: unknown[]) => ask(named(first), ...rest)) as Client['query'];
  }
}
