import fc from 'fast-check';
import type { z } from 'zod';
import { contract, isOperation, type OperationName } from './index';

const names = Object.keys(contract) as OperationName[];
const uuid = '00000000-0000-4000-8000-000000000001';

it('knows its operations by their own names only', () => {
  for (const name of names) expect(isOperation(name)).toBe(true);
  for (const name of ['', 'constructor', '__proto__', 'toString', 'place.destroy', 'PLACE.OPEN'])
    expect(isOperation(name)).toBe(false);
});

it('names each operation as what it is about and what it does, and says whether it changes anything', () => {
  for (const name of names) {
    expect(name).toMatch(/^[a-z]+(?:\.[a-zA-Z]+)?$/u);
    expect(['ask', 'act']).toContain(contract[name].kind);
  }
});

it.each(names)(
  'reads anything that is sent to %s, or refuses it with a sentence for each field; it never fails',
  (name) => {
    const schema: z.ZodType = contract[name].input;
    fc.assert(
      fc.property(fc.anything({ maxDepth: 3 }), (junk) => {
        const read = schema.safeParse(junk);
        if (!read.success) for (const each of read.error.issues) expect(each.message.length).toBeGreaterThan(0);
      }),
      { seed: 22, numRuns: 60 },
    );
    for (const junk of [null, undefined, 5, 'text', []]) expect(schema.safeParse(junk).success).toBe(false);
  },
);

/** Where an input holds an id, nothing but an id gets through. */
const withIds: readonly (readonly [OperationName, string, object])[] = [
  ['place.open', 'placeId', {}],
  ['paper.docket', 'documentId', {}],
  ['columns.at', 'placeId', {}],
  ['label.papers', 'labelId', {}],
  ['term.retire', 'termId', { retired: true }],
  ['column.retire', 'columnId', { retired: true, revision: 0 }],
  ['upload.cancel', 'uploadId', {}],
  ['group.remove', 'groupId', {}],
  ['person.setActive', 'personId', { active: true }],
];
it.each(withIds)('%s takes an id as its %s, and nothing like one', (name, key, rest) => {
  const schema: z.ZodType = contract[name].input;
  expect(schema.safeParse({ ...rest, [key]: uuid }).success).toBe(true);
  for (const id of ['', '1', `${uuid}'`, `${uuid} or true`, '../etc', uuid.slice(1), [uuid], { $ne: '' }, null])
    expect(schema.safeParse({ ...rest, [key]: id }).success).toBe(false);
});

describe('the shapes of columns and values', () => {
  const define = (more: object) =>
    contract['column.define'].input.safeParse({
      placeId: uuid,
      name: 'Amount',
      help: '',
      type: 'amount',
      listId: null,
      open: false,
      unit: '',
      decimals: null,
      currency: 'gbp',
      required: false,
      defaultValue: null,
      ...more,
    });

  it('take a currency of ISO 4217 in any case, and no other', () => {
    expect(define({})).toMatchObject({ success: true, data: { currency: 'GBP' } });
    for (const currency of ['POUND', 'XXX1', '£']) expect(define({ currency }).success).toBe(false);
  });

  it.each([
    [{ decimals: 7 }],
    [{ decimals: -1 }],
    [{ decimals: 1.5 }],
    [{ type: 'money' }],
    [{ name: '\u0000' }],
    [{ help: 'x'.repeat(401) }],
    [{ unit: 'x'.repeat(21) }],
  ])('refuse %j', (more) => {
    expect(define(more).success).toBe(false);
  });

  it('take a value or a binding for what a place gives, never both and never neither', () => {
    const given = (line: object) =>
      contract['given.set'].input.safeParse({
        placeId: uuid,
        revision: 0,
        given: [{ columnId: uuid, mode: 'fixed', ...line }],
      }).success;
    expect(given({ value: 'x', binding: null })).toBe(true);
    expect(given({ value: null, binding: 'dossier' })).toBe(true);
    expect(given({ value: 'x', binding: 'dossier' })).toBe(false);
    expect(given({ value: null, binding: null })).toBe(false);
    expect(given({ value: null, binding: 'weather' })).toBe(false);
  });

  it('take 100,000 cells in one act, and not one more', () => {
    const cells = (count: number) =>
      Array.from({ length: count }, () => ({ documentId: uuid, columnId: uuid, text: 'x' }));
    const read = contract['papers.setCells'].input.safeParse({ cells: cells(100_001) });
    expect(read.error?.issues[0]?.message).toBe('At most 100,000 cells fit in one act. Nothing was saved.');
    expect(contract['papers.setCells'].input.safeParse({ cells: cells(2) }).success).toBe(true);
    expect(contract['papers.setCells'].input.safeParse({ cells: [] }).success).toBe(false);
  });
});
