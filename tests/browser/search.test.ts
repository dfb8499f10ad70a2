import { PDFDocument } from '@cantoo/pdf-lib';
import ExcelJS from 'exceljs';
import MailComposer from 'nodemailer/lib/mail-composer';
import { Key } from 'selenium-webdriver';
import sharp from 'sharp';
import { plainFields } from '@/core/columns/contract';
import { fileBuffer } from '@/demo/file';
import { defineColumn } from '@/server/columns/define';
import { changeTerm, createList, listOf } from '@/server/columns/lists';
import { setValues } from '@/server/columns/setValues';
import { db } from '@/server/db/client';
import { attachment } from '@/server/db/schema';
import { readStages } from '@/server/extraction/read';
import type { Actor } from '@/server/gate/actor';
import { freshLibrary, furnished, newcomer, open, passwords } from '../library';
import { readPaper } from '../reading';
import type { Browser } from './browser';
import { begin, end } from './stage';
import type { WebServer } from './server';

let server: WebServer;
let browser: Browser;
let keeper: Actor;
let reader: Actor;
let home: Awaited<ReturnType<typeof furnished>>;

beforeAll(async () => {
  keeper = await freshLibrary();
  reader = await newcomer(keeper, 'Rea Der');
  home = await furnished(keeper);
  const closed = await furnished(keeper, 'Closed');
  await open(keeper, home.series.id, reader, 'reader');
  const long = await PDFDocument.create();
  const font = await long.embedFont('Helvetica');
  for (let page = 1; page <= 220; page += 1)
    long
      .addPage([400, 300])
      .drawText(
        page === 212 ? 'Here the phalarope rests.' : `On day ${page} the tide was read by the harbour master.`,
        { x: 20, y: 200, size: 12, font },
      );
  await filed('Birds of the bar.pdf', Buffer.from(await long.save()));
  const line = `<svg xmlns="http://www.w3.org/2000/svg" width="1700" height="300"><rect width="100%" height="100%" fill="#fff"/><text x="60" y="160" font-family="Liberation Serif" font-size="48">Received of the bosun, one binnacle.</text></svg>`;
  await filed('Receipt.tif', await sharp(Buffer.from(line)).tiff().toBuffer());
  await filed('Rota.txt', Buffer.from('Nobody is on the quay on Sundays.'));
  const book = new ExcelJS.Workbook();
  for (const name of ['Dues', 'Rents', 'Stores']) book.addWorksheet(name).addRow(['Nothing', 1]);
  book.worksheets[2]?.addRow(['Shelf 4', 'holystone']);
  await filed('Figures.xlsx', Buffer.from(await book.xlsx.writeBuffer()));
  await filed(
    'About the crane.eml',
    await new MailComposer({
      from: 'Ida <ida@saltmarrow.example>',
      to: 'office@saltmarrow.example',
      subject: 'For the archive',
      text: 'See what is attached.',
      attachments: [{ filename: 'history.txt', content: 'The steam capstan was sold for scrap in 1931.' }],
    })
      .compile()
      .build(),
  );
  for (const { sha256 } of await db().select({ sha256: attachment.sha256 }).from(attachment)) await readStages(sha256);
  const invoice = await filed('Invoice of May.txt', Buffer.from('Invoice INV-2023-00471 for twelve bollards.'));
  const { id: listId } = await createList(keeper, { name: 'Suppliers', terms: ['Cobble and Strand'] });
  const [term] = (await listOf(keeper, listId)).terms;
  if (!term) throw new Error('No term');
  await changeTerm(keeper, { termId: term.id, name: term.name, otherNames: ['Quernstone Works'], parentId: null });
  const column = await defineColumn(keeper, {
    ...plainFields,
    name: 'Supplier',
    type: 'choice',
    listId,
    placeId: home.series.id,
  });
  await setValues(keeper, { documentIds: [invoice], values: { [column.id]: term.id } });
  await readPaper(await fileBuffer(keeper, closed.year.id, 'Kept.txt', Buffer.from('The quillwort is kept apart.')));
  ({ server, browser } = await begin(keeper));
});
afterAll(() => end());

async function filed(fileName: string, content: Buffer): Promise<string> {
  const id = await fileBuffer(keeper, home.year.id, fileName, content);
  await readPaper(id);
  return id;
}

/** Types words into the field and goes to all that is found for them. */
async function look(words: string): Promise<void> {
  await browser.goTo(`${server.url}/desk`);
  await browser.settled();
  await browser.press('/');
  await browser.press(words);
  await browser.press(Key.ENTER);
  await browser.get('textbox', 'Words to find');
}

it('finds a word that stands only on page 212 of a PDF, shows it, opens the paper there, and goes back to what was found', async () => {
  await look('phalaropes');
  await browser.seesText('Here the phalarope rests');
  await browser.seesText('Page 212');
  await browser.click('link', 'Birds of the bar');
  await browser.seesText('1 of 1 place');
  await browser.seesText(/page 212/u);
  await browser.click('link', /^Back/u);
  await browser.seesText('Here the phalarope rests');
});

it('finds a word that stands only in a scan', async () => {
  await browser.goTo(`${server.url}/find`);
  await browser.fill('Words to find', 'binnacle');
  await browser.press(Key.ENTER);
  await browser.seesText('Received of the bosun');
  await browser.click('link', 'Receipt');
  await browser.seesText('1 of 1 place');
});

it('finds a word that stands only in a cell of a third sheet, and opens that sheet with the cell marked', async () => {
  await look('holystone');
  await browser.seesText('Shelf 4');
  await browser.click('link', 'Figures');
  await browser.seesText('1 of 1 cell');
  expect(await (await browser.get('tab', 'Stores')).getAttribute('aria-selected')).toBe('true');
});

it('finds a word that stands only in what is attached to a mail, and opens the attachment there', async () => {
  await look('steam capstan');
  await browser.seesText('In the attachment history.txt');
  await browser.click('link', 'About the crane');
  await browser.get('heading', 'history.txt');
  await browser.seesText('1 of 1 place');
});

it('finds by another name of a term, and says so', async () => {
  await look('quernstone');
  await browser.seesText('Cobble and Strand (also Quernstone Works)');
  await browser.click('link', 'Invoice of May');
  await browser.get('heading', 'Invoice of May');
});

it('finds by a part of an invoice’s number, and opens it at the number', async () => {
  await look('0047');
  await browser.seesText('INV-2023-00471');
  await browser.click('link', 'Invoice of May');
  await browser.seesText('1 of 1 place');
});

it('finds a misspelt supplier at once, and says what it looked for instead', async () => {
  await look('quernstome');
  await browser.seesText('Nothing was found for “quernstome”. This is what was found for quernstone.');
  await browser.seesText('Invoice of May');
  await browser.driver.navigate().back();
  await browser.get('heading', /desk$/u);
  await look('quernstome');
  await browser.seesText('This is what was found for quernstone.');
  await browser.click('button', 'Look for “quernstome” all the same');
  await browser.seesText('Nothing was found for “quernstome” in the papers that are open to you.');
});

it('is a view: narrowed by a condition with counts, grouped, kept, and opened again', async () => {
  await look('the harbour');
  await browser.seesText('Birds of the bar');
  await look('nobody*');
  await browser.seesText('Rota');
  await browser.click('button', 'Add a condition');
  await browser.click('option', 'Kind');
  await browser.click('option', /TEXT\s*1/u);
  await browser.press(Key.ESCAPE);
  await browser.click('button', 'Save as a view');
  await browser.fill('Name', 'Nobody at all');
  await browser.click('button', /^Save for/u);
  await browser.until('it to be kept', async () => (await browser.all('textbox', 'Name')).length === 0);
  await browser.goTo(`${server.url}/all`);
  await browser.click('tab', /^Nobody at all/u);
  await browser.seesText('Nobody is on the quay');
});

it('says what was looked for where nothing is found, and offers the wider places', async () => {
  await browser.goTo(`${server.url}/find?words=kittiwake&in=${home.dossier.id}`);
  await browser.seesText('Nothing was found for “kittiwake” in');
  await browser.click('link', 'Look in the whole library');
  await browser.seesText('Nothing was found for “kittiwake” in the papers that are open to you.');
});

it('keeps what one looked for, for oneself, until it is emptied', async () => {
  await browser.goTo(`${server.url}/desk`);
  await browser.settled();
  await browser.press('/');
  await browser.get('option', 'kittiwake');
  await browser.click('button', 'Do not keep any');
  await browser.seesText('What you look for is not kept.');
  await browser.click('button', 'Keep it for me');
  await browser.seesText('What you look for is kept here, for you alone.');
});

it('tells a reader nothing of a word that stands only in papers kept from them', async () => {
  await look('quillwort');
  await browser.seesText('The quillwort is kept apart');
  await browser.signIn(server.url, reader.email, passwords.others);
  for (const words of ['quillwort', 'quillwrot', 'quillw*']) {
    await browser.goTo(`${server.url}/find?words=${words}`);
    await browser.seesText(`Nothing was found for “${words}”`);
    expect(await browser.text()).not.toMatch(/kept apart|Did you mean|Kept/u);
  }
});
