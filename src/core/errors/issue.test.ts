import { readFileSync } from 'node:fs';
import { issue, issueKinds, invalidField } from './issue';
import { fromProblem, toProblem } from './problem';

describe('issues', () => {
  it.each(Object.keys(issueKinds))('%s has whole sentences, a status, and its line in the docs', (kind) => {
    const { says, status } = issueKinds[kind as keyof typeof issueKinds];
    expect(says).toMatch(/^[A-Z].*\.$/u);
    expect(says).not.toMatch(/please|!/iu);
    expect(status).toBeGreaterThanOrEqual(400);
    expect(readFileSync('docs/errors.md', 'utf8')).toContain(`| \`${kind}\` | ${status} |`);
  });

  it('go out and come back as problem details (RFC 9457)', () => {
    const refused = invalidField('name', 'A name is needed.');
    expect(fromProblem(JSON.parse(JSON.stringify(toProblem(refused))))).toEqual(refused);
    expect(toProblem(issue('not-found'))).toEqual({
      type: '/problems/not-found',
      title: issueKinds['not-found'].says,
      status: 404,
    });
  });

  it.each([[null], [{}], [{ type: '/problems/unheard-of', title: 'x', status: 400 }], ['<html>']])(
    'an answer that is no problem of ours (%j) is a fault, never success',
    (body) => {
      expect(fromProblem(body).kind).toBe('fault');
    },
  );
});
