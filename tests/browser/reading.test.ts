import { By, Key } from 'selenium-webdriver';
import { Document, HeadingLevel, Packer, Paragraph } from 'docx';
import { fileBuffer } from '@/demo/file';
import type { Actor } from '@/server/gate/actor';
import { pickUp, putDown } from '@/server/hand/hand';
import { freshLibrary, furnished, newcomer, open, passwords } from '../library';
import { placeOn, say } from '../sheets';
import { draft, made, readPaper } from '../reading';
import type { Browser } from './browser';
import { begin, end } from './stage';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let reader: Actor;
let placeId: string;
beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  const { series, year } = await furnished(keeper);
  placeId = year.id;
  await open(keeper, series.id, reader, 'reader');
  await say(keeper, placeOn(placeId), [{ who: reader, withholds: ['take'] }]);
  ({ server, browser } = await begin(keeper));
});
afterAll(() => end());

/** A document of many pages: on each its number in words, and on the fifth and seventh the word that is looked for. */
async function longDocument(): Promise<Buffer> {
  const pages = Array.from({ length: 12 }, (_each, at) => at + 1);
  return Packer.toBuffer(
    new Document({
      sections: [
        {
          children: pages.flatMap((page) => [
            new Paragraph({
              text: `Chapter ${page}`,
              heading: HeadingLevel.HEADING_1,
              outlineLevel: 0,
              pageBreakBefore: page > 1,
            }),
            new Paragraph(page === 5 || page === 7 ? 'Here the kittiwake nests.' : 'Nothing nests here.'),
          ]),
        },
      ],
    }),
  );
}

async function filed(fileName: string, content: Buffer, isRead = true): Promise<string> {
  const id = await fileBuffer(keeper, placeId, fileName, content);
  if (isRead) await readPaper(id);
  return id;
}

const pageShown = (page: number) =>
  browser.until(`page ${page}`, () =>
    browser.driver.executeScript<boolean>(
      `const page = document.querySelector('[data-page="${page}"] canvas, [data-page="${page}"] img');
       if (!page) return false;
       const { top, bottom } = page.getBoundingClientRect();
       return top < innerHeight && bottom > 100;`,
    ),
  );

describe('a Word document', () => {
  let id = '';
  beforeAll(async () => {
    id = await filed('Long.docx', await longDocument());
  });

  it('is read where it lies, page by page, with text to select', async () => {
    await browser.goTo(`${server.url}/paper/${id}`);
    await browser.seesText('of 12');
    await pageShown(1);
    await browser.until('its text', () =>
      browser.driver.executeScript<boolean>(
        `return document.querySelector('[data-page="1"] .textLayer')?.textContent.includes('Chapter 1') ?? false`,
      ),
    );
  });

  it('is searched from within: the count, and a jump to each place', async () => {
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('f').keyUp(Key.CONTROL).perform();
    await browser.press('kittiwake');
    await browser.seesText('1 of 2 places, page 5');
    await pageShown(5);
    await browser.until(
      'the mark',
      async () => (await browser.driver.findElements(By.css('[data-page="5"] [aria-hidden] span')))[0] ?? null,
    );
    await browser.press(Key.ENTER);
    await browser.seesText('2 of 2 places, page 7');
    await pageShown(7);
    await browser.press(Key.ESCAPE);
  });

  it('has an overview with its pages and its contents list', async () => {
    await browser.click('button', 'Overview');
    await browser.click('button', 'Contents');
    await browser.click('button', /^Chapter 9/u);
    await pageShown(9);
    await browser.click('button', 'Larger');
    await browser.seesText('100 %');
    await browser.settled();
    await pageShown(9);
    await browser.click('button', 'Smaller');
    await browser.click('button', 'Overview');
  });

  it('fills the screen for a meeting: arrows turn the pages, Esc ends it', async () => {
    await browser.click('button', 'Full screen');
    const full = await browser.get('dialog', 'Full screen');
    await browser.press(Key.END);
    await browser.until('the last page', async () => (await full.getText()).includes('12 of 12'));
    await browser.press(Key.ARROW_LEFT);
    await browser.until('the page before', async () => (await full.getText()).includes('11 of 12'));
    await browser.press(Key.ESCAPE);
    await browser.until('its end', async () => (await browser.all('dialog', 'Full screen')).length === 0);
    await pageShown(11);
  });

  it('opens again at the page where one was, and at the page that an address names', async () => {
    await browser.until('the page in the address', async () =>
      (await browser.driver.getCurrentUrl()).includes('page=11'),
    );
    await browser.goTo(`${server.url}/paper/${id}`);
    await pageShown(11);
    await browser.goTo(`${server.url}/paper/${id}?page=3`);
    await pageShown(3);
  });
});

describe('other kinds', () => {
  it('a workbook is a grid with its sheets and number formats, searched cell by cell', async () => {
    await browser.goTo(`${server.url}/paper/${await filed('Accounts.xlsx', await made('xlsx'))}`);
    await browser.get('grid', 'Sheet Survey of the north wall');
    const pounds = (draft.figures[1]?.pounds ?? 0).toLocaleString('en-GB', { minimumFractionDigits: 2 });
    await browser.get('gridcell', pounds);
    await browser.fill('Find in this paper', draft.figures[1]?.what ?? '');
    await browser.seesText(/1 of \d+ cell/u);
    await browser.click('button', 'Show as printed pages');
    await pageShown(1);
    await browser.click('button', 'Show as sheets');
    await browser.get('grid', 'Sheet Survey of the north wall');
  });

  it('a mail has its head, its body and its attachments, which open within it', async () => {
    const attached = Buffer.from('Dredging begins on Monday.\n').toString('base64');
    const mail = Buffer.from(
      `From: "Ida Quay" <ida@saltmarrow.example>\r\nTo: board@saltmarrow.example\r\nSubject: The slipway\r\n` +
        `Date: Tue, 14 Jul 2026 09:30:00 +0100\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\n` +
        `Content-Type: text/plain\r\n\r\nSee you at the slipway.\r\n--b\r\nContent-Type: text/plain; name="notice.txt"\r\n` +
        `Content-Disposition: attachment; filename="notice.txt"\r\nContent-Transfer-Encoding: base64\r\n\r\n${attached}\r\n--b--\r\n`,
    );
    await browser.goTo(`${server.url}/paper/${await filed('Slipway.eml', mail)}`);
    await browser.seesText('See you at the slipway.');
    await browser.seesText('Ida Quay');
    await browser.click('button', /notice\.txt/u);
    // No worker runs here: that it waits is said, and that it goes first.
    await browser.seesText('It is being made ready for the screen.');
    await browser.click('button', 'Back to the mail');
    await browser.seesText('See you at the slipway.');
  });

  it('what is damaged is said to be, and can still be downloaded', async () => {
    await browser.goTo(`${server.url}/paper/${await filed('Broken.pdf', Buffer.from('%PDF-1.7\nthis is no page\n'))}`);
    await browser.seesText('It cannot be shown here. It is damaged');
    await browser.get('link', 'Download');
    await browser.click('button', 'Read again');
    await browser.seesText('Being read');
  });
});

describe('someone who may not have copies', () => {
  it('reads page pictures with their name across, finds in them, and has no text, print or download', async () => {
    const id = await filed('Withheld.docx', await longDocument());
    await browser.signIn(server.url, reader.email, passwords.others);
    await browser.goTo(`${server.url}/paper/${id}`);
    await browser.seesText('of 12');
    await pageShown(1);
    expect(await browser.driver.findElements(By.css('canvas, .textLayer'))).toEqual([]);
    const main = await browser.driver.findElement(By.css('main'));
    expect(await browser.all('button', 'Print', main)).toEqual([]);
    expect(await browser.all('link', 'Download', main)).toEqual([]);
    await browser.click('button', 'Find');
    await browser.press('kittiwake');
    await browser.seesText('1 of 2 places, page 5');
    await pageShown(5);
    await browser.until(
      'the mark',
      async () => (await browser.driver.findElements(By.css('[data-page="5"] [aria-hidden] span')))[0] ?? null,
    );
    await browser.signIn(server.url, keeper.email, passwords.keeper);
  });
});

describe('two versions', () => {
  it('stand side by side with the pages that changed, and word by word', async () => {
    const id = await filed('Rules.txt', Buffer.from('The quay is open from dawn.\n'));
    await fileBuffer(keeper, placeId, 'Rules.txt', Buffer.from('The quay is closed from dawn.\n'), 'version');
    await readPaper(id);
    await browser.goTo(`${server.url}/paper/${id}`);
    await browser.click('button', 'Check version 2');
    await browser.seesText('Version 2 is what was filed, byte by byte');
    await browser.click('link', 'Compare');
    await browser.seesText('They differ on page 1.');
    await browser.click('button', 'Words');
    await browser.until('what came', async () => (await browser.driver.findElements(By.css('ins')))[0] ?? null);
    expect(await browser.driver.findElement(By.css('ins')).getText()).toBe('closed');
    expect(await browser.driver.findElement(By.css('del')).getText()).toBe('open');
  });
});

describe('from one paper to the next', () => {
  it('goes in the order of the view from which the first was opened', async () => {
    await browser.goTo(`${server.url}/place/${placeId}`);
    await browser.seesText('Accounts');
    await browser.click('gridcell', /^Accounts/u);
    await browser.press(Key.ENTER);
    await browser.get('grid', 'Sheet Survey of the north wall');
    await browser.click('button', 'Next paper');
    await browser.get('heading', 'Broken');
    await browser.click('button', 'Previous paper');
    await browser.get('grid', 'Sheet Survey of the north wall');
  });
});

describe('several papers in hand', () => {
  it('are printed together, page after page, without those that have none', async () => {
    const names = ['Second.docx', 'First.docx'];
    const printed = await Promise.all(names.map(async (name) => filed(name, await longDocument())));
    const unread = await filed('Unread.txt', Buffer.from('not read yet'), false);
    await putDown(keeper, { documentIds: null });
    await pickUp(keeper, { documentIds: [...printed, unread] });
    await browser.goTo(`${server.url}/place/${placeId}`);
    await browser.driver.executeScript('window.print = () => { window.printed = (window.printed ?? 0) + 1; };');
    await browser.click('button', 'Print…');
    await browser.seesText('1 paper has no pages to print yet, and will be left out.');
    await browser.click('button', 'Print 24 pages of 2 papers');
    await browser.until('the pages to be printed once', () =>
      browser.driver.executeScript<boolean>('return window.printed === 1'),
    );
    const pages = await browser.driver.executeScript<string[]>(
      `return [...document.querySelectorAll('.printed-pages img')].map((page) => page.naturalWidth > 0 && page.src)`,
    );
    expect(pages).toHaveLength(24);
    expect(pages[0]).toContain(`${printed[1]}/content?page=1`);
    expect(pages[23]).toContain(`${printed[0]}/content?page=12`);
    await browser.driver.executeScript(`window.dispatchEvent(new Event('afterprint'))`);
    await browser.until('nothing of it to be left', () =>
      browser.driver.executeScript<boolean>(`return document.querySelector('.printed-pages') === null`),
    );
    await putDown(keeper, { documentIds: null });
  });
});

describe('how reading the library stands', () => {
  it('is shown to keepers, with what could not be read and why', async () => {
    await browser.goTo(`${server.url}/reading`);
    const list = await browser.get('region', 'Not wholly read');
    await browser.get('link', 'Broken', list);
    await browser.click('button', 'What was not wholly read');
    await browser.seesText(/will be read again/u);
  });
});
