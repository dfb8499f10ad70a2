import type { Stated } from '../stated/model';
import { conditionsInWords, faultOf, holds, titleByRule, type RuleCondition, type RuleFacts } from './filingRule';

const stated = (kind: Stated['kind'], value: string): Stated => ({
  ...{ kind, value, currency: null, words: value, by: null, page: 1, spot: null, sure: 0.9 },
});
const facts: RuleFacts = {
  sender: 'Billing@Gull.example',
  sentTo: ['intake@library.example'],
  subject: 'Our bill for rope',
  text: 'Mooring buoys and élan',
  stated: [stated('amount', '120.00'), stated('number', 'G-17'), stated('day', '2026-11-03')],
};
const holding = (...conditions: RuleCondition[]) => holds(conditions, facts);
const is = (field: RuleCondition['field'], text: string): RuleCondition => ({ field, text });

describe('a condition', () => {
  it.each([
    ['from', 'billing@gull.example', true],
    ['from', 'gull.example', true],
    ['from', '@gull.example', true],
    ['from', 'ull.example', false],
    ['from', 'example', true],
    ['from', 'other@gull.example', false],
    ['to', 'intake@library.example', true],
    ['to', 'bills@library.example', false],
    ['subject', 'ROPE', true],
    ['subject', 'rop', false],
    ['words', 'mooring  buoys', true],
    ['words', 'elan', true],
    ['words', 'buoys mooring', false],
    ['leastAmount', '120', true],
    ['leastAmount', '120.01', false],
    ['mostAmount', '120.00', true],
    ['mostAmount', '119.99', false],
  ] as const)('%s %s: %s', (field, text, holdsIt) => {
    expect(holding(is(field, text))).toBe(holdsIt);
  });

  it('does not hold where there is no amount', () => {
    const none = { ...facts, stated: [] };
    expect([holds([is('leastAmount', '0')], none), holds([is('mostAmount', '9')], none)]).toEqual([false, false]);
  });

  it('is told what is wrong with it', () => {
    expect(faultOf(is('words', ' '))).toMatch(/Say what/u);
    expect(faultOf(is('words', '—'))).toMatch(/no word/u);
    expect(faultOf(is('mostAmount', '1,28,4'))).toMatch(/not an amount/u);
    expect(faultOf(is('mostAmount', '128.40'))).toBeNull();
  });
});

it('a rule holds where all its conditions do, and never without one', () => {
  expect(holding(is('from', 'gull.example'), is('subject', 'rope'))).toBe(true);
  expect(holding(is('from', 'gull.example'), is('subject', 'chain'))).toBe(false);
  expect(holding()).toBe(false);
  expect(conditionsInWords([is('from', 'gull.example'), is('words', 'rope')])).toBe(
    'It comes from gull.example and has the words rope.',
  );
});

it('a title is filled in, and what is not known leaves no gap', () => {
  expect(titleByRule('Invoice {number}, {day}', 'scan', facts)).toBe('Invoice G-17, 2026-11-03');
  expect(titleByRule('Invoice {number}, {day}', 'scan', { ...facts, stated: [] })).toBe('Invoice');
  expect(titleByRule('{number}', 'scan', { ...facts, stated: [] })).toBe('scan');
  expect(titleByRule('{subject} ({title})', 'scan', facts)).toBe('Our bill for rope (scan)');
  expect(titleByRule('', 'scan', facts)).toBe('scan');
});
