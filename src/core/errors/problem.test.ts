import { issue, invalidField, issueKinds, type IssueKind } from './issue';
import { fromProblem, toProblem } from './problem';
import { Refusal, orRefuse, refuse } from './refusal';
import { bad, good } from './result';

const kinds = Object.keys(issueKinds) as IssueKind[];

it.each(kinds)('carries %s over HTTP and back (RFC 9457)', (kind) => {
  const problem = toProblem(issue(kind));
  expect(problem).toEqual({ type: `/problems/${kind}`, title: issueKinds[kind].says, status: issueKinds[kind].status });
  expect(fromProblem(JSON.parse(JSON.stringify(problem)))).toEqual(issue(kind));
});

it('carries the fields, and better words', () => {
  const refused = invalidField('name', 'A name is needed.');
  expect(fromProblem(toProblem(refused))).toEqual(refused);
});

it.each([null, 'no', {}, { type: '/problems/made-up', title: 'x', status: 500 }, { type: 5 }])(
  'takes %j for a fault, never for success',
  (body) => {
    expect(fromProblem(body).kind).toBe('fault');
  },
);

it('throws a refusal that carries its issue, and hands a good value through', () => {
  expect(() => refuse('conflict')).toThrow(Refusal);
  expect(orRefuse(good(5))).toBe(5);
  expect(() => orRefuse(bad(issue('gone')))).toThrow(expect.objectContaining({ issue: issue('gone') }));
});

it('knows a refusal that another copy of its module made, and takes no other error for one', () => {
  const other = Object.assign(new Error('another copy'), { [Symbol.for('embrin.refusal')]: true });
  expect(other instanceof Refusal).toBe(true);
  expect(new Error('x') instanceof Refusal).toBe(false);
  expect((null as unknown) instanceof Refusal).toBe(false);
});
