import { checksInWords, isDoubtful, senderChecks } from './senderChecks';

/** Fields after the examples of RFC 8601, appendix B, from memory. */
describe('the results that a receiving server wrote (RFC 8601)', () => {
  it.each([
    ['nothing was looked at (B.2)', 'example.org 1; none', 'example.org', ''],
    ['one method (B.3)', 'example.com; spf=pass smtp.mailfrom=example.net', 'example.com', 'SPF pass for example.net'],
    [
      'methods that are not about the sender are left out (B.4)',
      'example.com; auth=pass (cram-md5) smtp.auth=sender@example.net; spf=pass smtp.mailfrom=example.net',
      'example.com',
      'SPF pass for example.net',
    ],
    [
      'several, with comments and reasons (B.5, B.6)',
      'example.com; dkim=pass (good signature) header.d=mail-router.example.net; dkim=fail reason="bad; signature" header.i=@newyork.example.com',
      'EXAMPLE.com',
      'DKIM pass for mail-router.example.net, DKIM fail for @newyork.example.com',
    ],
    [
      'comments wherever they may stand (B.7)',
      'foo.example.net (foobar) 1 (baz);\r\n dkim (Because I like it) / 1 (One yay) = (wait for it) fail\r\n policy (A dot can go here) . (like (that)) expired (this surprised me) = (as I was not expecting it) 1362471462',
      'foo.example.net',
      'DKIM fail',
    ],
    ['by another server, whoever wrote it', 'evil.example; spf=pass smtp.mailfrom=bank.example', 'example.com', ''],
    ['a comment that never ends', 'example.com; spf=pass (never', 'example.com', 'SPF pass'],
    ['nothing at all', '', 'example.com', ''],
  ])('%s', (_what, field, server, says) => {
    expect(checksInWords(senderChecks([field], server))).toBe(says);
  });

  it('is of each method what stands uppermost: what came with the server’s name stands below', () => {
    const fields = ['example.com; spf=fail', 'example.com; dkim=fail', 'example.com; spf=pass; dkim=pass; dmarc=pass'];
    expect(checksInWords(senderChecks(fields, 'example.com'))).toBe('SPF fail, DKIM fail');
  });

  it('is believed of no server where none is trusted, and does not grow without end', () => {
    expect(senderChecks(['example.com; spf=pass'], '')).toEqual([]);
    expect(senderChecks([`a${'; spf=pass'.repeat(5000)}`], 'a')).toHaveLength(20);
  });
});

describe('the sender', () => {
  const check = (method: 'spf' | 'dkim' | 'dmarc', result: string) => ({ method, result, about: '' });
  it.each([
    ['nothing was looked at', [], false],
    ['all is well', [check('spf', 'pass'), check('dkim', 'pass')], false],
    ['one passed', [check('spf', 'softfail'), check('dkim', 'pass')], false],
    ['nothing passed', [check('spf', 'softfail'), check('dkim', 'none')], true],
    ['nothing is said of that domain', [check('spf', 'none'), check('dkim', 'none')], false],
    ['DMARC decides', [check('spf', 'pass'), check('dmarc', 'fail')], true],
    ['DMARC decides, the other way', [check('spf', 'fail'), check('dmarc', 'pass')], false],
  ])('is doubted or not: %s', (_what, checks, doubtful) => {
    expect(isDoubtful(checks)).toBe(doubtful);
  });
});
