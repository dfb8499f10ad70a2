/**
 * Writes the documents that are made from the code: the rooms (dependency-cruiser), the tables (from the schema) and the HTTP
 * API (from the contract). `--check` writes nothing and fails where one is out of date.
 */
import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { is } from 'drizzle-orm';
import { getTableConfig, PgTable } from 'drizzle-orm/pg-core';
import { format, resolveConfig } from 'prettier';
import { z } from 'zod';
import { contract, type OperationName } from '@/core/contract';
import * as schema from '@/server/db/schema';

const floors = {
  core: 'What the product knows',
  server: 'Use-cases over PostgreSQL',
  ui: 'Screens over the contract',
} as const;

const fenced = (language: string, text: string): string => `\`\`\`${language}\n${text.trim()}\n\`\`\`\n`;

/** One diagram a floor: an arrow from each room to every room it imports. */
function rooms(): string {
  const parts = Object.entries(floors).map(([floor, about]) => {
    const words = ['--config', '.dependency-cruiser.rooms.mjs', '--include-only', `^src/${floor}`];
    const drawing = execFileSync(
      'node_modules/.bin/depcruise',
      [`src/${floor}`, ...words, '--collapse', `^src/${floor}/[^/]+`, '--output-type', 'mermaid'],
      { encoding: 'utf8' },
    );
    return `## ${floor}\n\n${about}.\n\n${fenced('mermaid', drawing)}`;
  });
  return `# The rooms\n\nMade by dependency-cruiser (\`npm run docs\`); [architecture.md](architecture.md) says what each room holds.\n\n${parts.join('\n')}`;
}

/** Every table with its columns, and a line for each foreign key. */
function tables(): string {
  const all = Object.values(schema).flatMap((each) => (is(each, PgTable) ? [getTableConfig(each)] : []));
  const snake = (name: string): string => name.replace(/[A-Z]/gu, (letter) => `_${letter.toLowerCase()}`);
  const boxes = all
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .map(({ name, columns }) => {
      const rows = columns.map((column) => {
        const marks = column.primary ? ' PK' : '';
        return `    ${column.getSQLType().replace(/\W+/gu, '_')} ${snake(column.name)}${marks}`;
      });
      return `  ${name} {\n${rows.join('\n')}\n  }`;
    });
  const lines = all.flatMap(({ name, foreignKeys }) =>
    foreignKeys.map((key) => {
      const { columns, foreignTable } = key.reference();
      const by = columns.map((column) => snake(column.name)).join(', ');
      return `  ${getTableConfig(foreignTable).name} ||--o{ ${name} : "${by}"`;
    }),
  );
  return `# The tables\n\nMade from the schema (\`npm run docs\`); [data.md](data.md) says what each is for.\n\n${fenced('mermaid', `erDiagram\n${boxes.join('\n')}\n${lines.join('\n')}`)}`;
}

interface Shape {
  readonly type?: string;
  readonly properties?: Readonly<Record<string, Shape>>;
  readonly required?: readonly string[];
  readonly items?: Shape;
  readonly anyOf?: readonly Shape[];
  readonly oneOf?: readonly Shape[];
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly format?: string;
  readonly additionalProperties?: Shape | boolean;
}

/** A JSON schema in the notation of TypeScript. */
function shape(of: Shape): string {
  if (of.enum) return of.enum.map((each) => JSON.stringify(each)).join(' | ');
  if ('const' in of) return JSON.stringify(of.const);
  const choices = of.anyOf ?? of.oneOf;
  if (choices) return [...new Set(choices.map(shape))].join(' | ');
  if (of.type === 'array') return `(${shape(of.items ?? {})})[]`;
  if (of.properties) {
    const fields = Object.entries(of.properties).map(
      ([name, field]) => `${name}${of.required?.includes(name) === true ? '' : '?'}: ${shape(field)}`,
    );
    return fields.length === 0 ? '{}' : `{ ${fields.join('; ')} }`;
  }
  if (typeof of.additionalProperties === 'object') return `{ [key]: ${shape(of.additionalProperties)} }`;
  return of.format ?? of.type ?? 'any';
}

/** Every operation: whether it asks or acts, and its input. */
function api(): string {
  const names = (Object.keys(contract) as OperationName[]).sort();
  const rows = names.map((name) => {
    const input = z.toJSONSchema(contract[name].input, {
      unrepresentable: 'any',
      io: 'input',
      reused: 'inline',
    }) as Shape;
    return `### ${name}\n\n${contract[name].kind === 'act' ? 'Acts.' : 'Asks.'}\n\n${fenced('ts', shape(input))}`;
  });
  return `# The HTTP API

Made from the contract (\`npm run docs\`).

\`POST /api/call/NAME\` with a JSON body and a session cookie or \`Authorization: Bearer TOKEN\`. An operation that *asks* changes nothing and
works with every token; one that *acts* is one transaction with a journal entry. The answer is JSON; its type stands beside the operation in
\`src/core/*/contract.ts\`. A refusal is \`application/problem+json\` (RFC 9457); its kinds are in [errors.md](errors.md).

${rows.join('\n')}`;
}

const documents = { 'docs/rooms.md': rooms, 'docs/tables.md': tables, 'docs/http-api.md': api };
const stale: string[] = [];
for (const [file, make] of Object.entries(documents)) {
  const text = await format(make(), { ...(await resolveConfig(file)), parser: 'markdown' });
  if (!process.argv.includes('--check')) writeFileSync(file, text);
  else if (!existsSync(file) || readFileSync(file, 'utf8') !== text) stale.push(file);
}
if (stale.length > 0) {
  console.error(`Out of date: ${stale.join(', ')}. Run npm run docs.`);
  process.exit(1);
}
