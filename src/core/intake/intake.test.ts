import fc from 'fast-check';
import { isAutomatic, type Headers } from './automatic';
import { domainNames, evidenceInWords, ranked, saying, standsOut, sureOfFirst } from './evidence';
import type { Candidate, Evidence } from './model';
import { looksLikePaper, proposedParts } from './parts';

const headers = (...lines: readonly string[]): Headers =>
  lines.map((line) => {
    const [key = '', ...rest] = line.split(':');
    return { key: key.toLowerCase(), value: rest.join(':') };
  });

describe('a mail that a program sent by itself', () => {
  // RFC 3834: section 5 defines the field, 5.1 its values; section 2 names what else is not answered.
  it.each([
    ['Auto-Submitted: auto-generated'],
    ['Auto-Submitted: auto-replied'],
    ['Auto-Submitted: auto-replied; owner-email="me@a.example"'],
    ['Auto-Submitted: AUTO-NOTIFIED'],
    ['Precedence: bulk'],
    ['Precedence: junk'],
    ['Precedence: list'],
    ['List-Id: <members.harbour.example>'],
    ['List-Unsubscribe: <mailto:leave@harbour.example>'],
  ])('is known by “%s”', (line) => {
    expect(isAutomatic(headers('From: a@b.example', line), 'a@b.example')).toBe(true);
  });

  it('is known by its empty return path, as reports of delivery have it', () => {
    expect(isAutomatic(headers('From: MAILER-DAEMON@b.example'), '')).toBe(true);
  });

  it.each([['Auto-Submitted: no'], ['Precedence: first-class'], ['Subject: Re: Auto-Submitted: auto-replied']])(
    'is none by “%s”',
    (line) => {
      expect(isAutomatic(headers('From: a@b.example', line), 'a@b.example')).toBe(false);
    },
  );
});

describe('the parts of a mail', () => {
  const part = (number: number, name: string, mediaType: string, sizeBytes = 100_000) => ({
    ...{ number, name, mediaType, sizeBytes },
  });

  it('are its attachments, without the picture of a signature and what mail programs add', () => {
    const parts = proposedParts('Re: AW: Invoice 4711', [
      part(1, 'invoice_4711.pdf', 'application/pdf'),
      part(2, 'image001.png', 'image/png', 4000),
      part(3, 'smime.p7s', 'application/pkcs7-signature'),
      part(4, 'scan.jpg', 'image/jpeg', 800_000),
      part(5, 'winmail.dat', 'application/ms-tnef'),
      part(6, 'meeting.ics', 'text/calendar'),
      part(7, 'empty.pdf', 'application/pdf', 0),
    ]);
    expect(parts.filter(({ counts }) => counts)).toEqual([
      { attachment: 1, title: 'invoice 4711', counts: true },
      { attachment: 4, title: 'scan', counts: true },
    ]);
    expect(parts[0]).toEqual({ attachment: null, title: 'Invoice 4711', counts: false });
  });

  it('are the mail itself where nothing attached looks like a paper', () => {
    expect(proposedParts('Fwd: Dredging on 4/5 May', [part(1, 'logo.gif', 'image/gif', 900)])).toEqual([
      { attachment: null, title: 'Dredging on 4 5 May', counts: true },
      { attachment: 1, title: 'logo', counts: false },
    ]);
    expect(proposedParts('', [])).toEqual([{ attachment: null, title: 'Mail without a subject', counts: true }]);
    expect(looksLikePaper(part(1, 'noending', 'application/octet-stream'))).toBe(true);
  });
});

describe('what speaks for a dossier', () => {
  const of = (dossierId: string, ...evidence: Evidence[]): Candidate => ({ dossierId, evidence });
  const address = { kind: 'address', about: 's-017' } as const;
  const reference = { kind: 'reference', about: 'S-017' } as const;
  const sender = (times: number) => ({ kind: 'sender', about: 'a@b.example', times }) as const;
  const name = { kind: 'name', about: 'Lantern' } as const;

  it('adds up: its own address says most, a name least; a sender the more the oftener it was so', () => {
    const all = [of('d', name), of('c', reference), of('b', address), of('a', reference, name), of('none')];
    // By hand: a name 3, a reference 5, both 8, the address 8; of the last two the lower id is first.
    expect(ranked(all).map(({ dossierId }) => dossierId)).toEqual(['a', 'b', 'c']);
    expect([1, 8, 100].map((times) => saying(of('x', sender(times))))).toEqual([4.5, 8, 8]);
  });

  it('stands out where nothing else says two thirds as much', () => {
    expect(standsOut([])).toBe(false);
    expect(standsOut([of('a', name)])).toBe(true);
    expect(standsOut([of('a', address), of('b', reference)])).toBe(true);
    expect(standsOut([of('a', reference), of('b', sender(1))])).toBe(false);
  });

  it('is the surer the more of it there is, and the less so the nearer another comes', () => {
    const sure = (...all: Candidate[]) => sureOfFirst(all);
    expect(sure()).toBe(0);
    expect(sure(of('a', reference, name))).toBeGreaterThan(sure(of('a', reference)));
    expect(sure(of('a', reference))).toBeGreaterThan(sure(of('a', reference), of('b', name)));
    expect(sure(of('a', reference), of('b', name))).toBeGreaterThan(sure(of('a', name), of('b', name)));
    expect(sure(of('a', address))).toBeGreaterThan(0.9);
  });

  it('never says less with more of it', () => {
    const any = fc.constantFrom<Evidence>(address, reference, name, sender(1), sender(5));
    fc.assert(
      fc.property(fc.array(any), any, (some, more) => {
        expect(saying(of('x', ...some, more))).toBeGreaterThan(saying(of('x', ...some)));
      }),
      { seed: 3, numRuns: 100 },
    );
  });

  it('is told in words', () => {
    expect([address, reference, name, sender(1), sender(14)].map(evidenceInWords)).toEqual([
      'It was sent to “s-017”, the address of this dossier.',
      'It names the reference S-017.',
      'It names “Lantern”.',
      'One arrival from a@b.example was filed here.',
      '14 arrivals from a@b.example were filed here.',
    ]);
  });
});

it.each([
  ['lantern-dredging.example', 'Lantern Dredging Ltd', true],
  ['mail.lanterndredging.example', 'Lantern Dredging Ltd', true],
  ['caf-mar-e-dredging.example', 'Café Marée Dredging', true],
  ['post-for-all.example', 'Lantern Dredging Ltd', false],
  ['ltd.example', 'AB Ltd', false],
  ['', 'Lantern Dredging', false],
])('whether the domain %j is called as “%s” is: %s', (domain, name, is) => {
  expect(domainNames(domain, name)).toBe(is);
});
