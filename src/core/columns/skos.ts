import { z } from 'zod';
import { invalidField } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { termKey } from './lexicon';

/** A term for export and import, with its path from the top. */
export interface PlainTerm {
  /** Names from the top level to its own. */
  readonly way: readonly string[];
  readonly otherNames: readonly string[];
  readonly retired: boolean;
}

const context = {
  skos: 'http://www.w3.org/2004/02/skos/core#',
  owl: 'http://www.w3.org/2002/07/owl#',
  prefLabel: { '@id': 'skos:prefLabel', '@container': '@language' },
  altLabel: { '@id': 'skos:altLabel', '@container': '@language' },
  broader: { '@id': 'skos:broader', '@type': '@id' },
  inScheme: { '@id': 'skos:inScheme', '@type': '@id' },
  topConceptOf: { '@id': 'skos:topConceptOf', '@type': '@id' },
} as const;

/**
 * A list as a SKOS concept scheme in JSON-LD 1.1 (W3C). Every concept has one preferred label in English (SKOS Reference,
 * S14), no other label equal to it (S13), and no cycle of broader concepts (section 8.6.8 allows cycles, our lists do
 * not).
 */
export function writeSkos(listName: string, terms: readonly PlainTerm[]): object {
  const idOf = (way: readonly string[]): string =>
    `urn:embrin:term:${way.map((step) => encodeURIComponent(termKey(step))).join('/')}`;
  const scheme = `urn:embrin:list:${encodeURIComponent(termKey(listName))}`;
  return {
    '@context': context,
    '@graph': [
      { '@id': scheme, '@type': 'skos:ConceptScheme', prefLabel: { en: listName } },
      ...terms.map(({ way, otherNames, retired }) => ({
        '@id': idOf(way),
        '@type': 'skos:Concept',
        inScheme: scheme,
        prefLabel: { en: way.at(-1) ?? '' },
        ...(otherNames.length > 0 ? { altLabel: { en: otherNames } } : {}),
        ...(way.length > 1 ? { broader: idOf(way.slice(0, -1)) } : { topConceptOf: scheme }),
        ...(retired ? { 'owl:deprecated': true } : {}),
      })),
    ],
  };
}

const words = z.union([z.string(), z.array(z.string())]).transform((one) => (typeof one === 'string' ? [one] : one));
const labelled = z.union([
  z.record(z.string(), words),
  words.transform((plain): Record<string, string[]> => ({ en: plain })),
]);
const reference = z.union([z.string(), z.object({ '@id': z.string() }).transform((node) => node['@id'])]);
const node = z.object({
  '@id': z.string(),
  '@type': words.optional(),
  prefLabel: labelled.optional(),
  'skos:prefLabel': labelled.optional(),
  altLabel: labelled.optional(),
  'skos:altLabel': labelled.optional(),
  broader: reference.optional(),
  'skos:broader': reference.optional(),
  'owl:deprecated': z.boolean().optional(),
});
const document = z.union([
  z.object({ '@graph': z.array(z.unknown()) }).transform((whole) => whole['@graph']),
  z.array(z.unknown()),
]);

const english = (labels: Record<string, string[]> | undefined): string[] =>
  labels ? (labels['en'] ?? labels['en-GB'] ?? Object.values(labels)[0] ?? []) : [];

/** Reads concepts from SKOS in JSON-LD with the usual prefixes; refuses other forms of JSON-LD. */
export function readSkos(text: string): Result<PlainTerm[]> {
  const wrong = (says: string): Result<never> => bad(invalidField('text', says));
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    return wrong('That is not JSON. SKOS comes in as JSON-LD, with its concepts in “@graph”.');
  }
  const graph = document.safeParse(parsed);
  if (!graph.success) return wrong('There is no “@graph” of concepts in it.');
  const concepts = new Map<
    string,
    { name: string; otherNames: string[]; broader: string | undefined; retired: boolean }
  >();
  for (const raw of graph.data) {
    const read = node.safeParse(raw);
    if (!read.success || !(read.data['@type'] ?? []).some((type) => /(?:^|[#:])Concept$/u.test(type))) continue;
    const concept = read.data;
    const preferred = english(concept.prefLabel ?? concept['skos:prefLabel']);
    if (preferred.length !== 1)
      return wrong(
        `The concept ${concept['@id']} has ${preferred.length} preferred labels in one language; SKOS allows one (S14).`,
      );
    const [name = ''] = preferred;
    const otherNames = english(concept.altLabel ?? concept['skos:altLabel']);
    if (otherNames.includes(name))
      return wrong(`The concept “${name}” has its preferred label among its other ones, which SKOS forbids (S13).`);
    concepts.set(concept['@id'], {
      name,
      otherNames,
      broader: concept.broader ?? concept['skos:broader'],
      retired: concept['owl:deprecated'] ?? false,
    });
  }
  if (concepts.size === 0) return wrong('There is no concept in it.');
  const terms: PlainTerm[] = [];
  for (const [conceptId, concept] of concepts) {
    const way: string[] = [];
    const passed = new Set<string>();
    for (let at: string | undefined = conceptId; at !== undefined; at = concepts.get(at)?.broader) {
      if (passed.has(at)) return wrong(`The concept “${concept.name}” stands under itself.`);
      passed.add(at);
      const step = concepts.get(at);
      if (!step) break;
      way.unshift(step.name);
    }
    terms.push({ way, otherNames: concept.otherNames, retired: concept.retired });
  }
  return good(terms.sort((a, b) => a.way.length - b.way.length));
}
