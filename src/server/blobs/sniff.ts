import { kindByContent, type FileKind } from '@/core/files/fileKind';
import { magicTypeOf } from './magic';

/** How much of a file's beginning is inspected. */
export const sniffBytes = 1024 * 1024;

/** The media type by `file-type`. Loaded on first use: it is an ES module only, which the unit test runner cannot require. */
async function typeOf(beginning: Buffer): Promise<string | undefined> {
  const { fileTypeFromBuffer } = await import('file-type');
  return (await fileTypeFromBuffer(beginning).catch(() => undefined))?.mime;
}

/** Whether bytes are text: UTF-8 (possibly cut off), UTF-16 with a byte order mark, or single bytes without control characters. */
function isTextual(beginning: Buffer): boolean {
  const utf16 = beginning.length >= 2 && [0xfffe, 0xfeff].includes(beginning.readUInt16BE(0));
  const text = new TextDecoder(utf16 ? (beginning[0] === 0xff ? 'utf-16le' : 'utf-16be') : 'latin1').decode(beginning);
  return !/[\u0000-\u0008\u000e-\u001a\u001c-\u001f]/u.test(text);
}

const headerLine = /^[\x21-\x39\x3b-\x7e]+:[ \t]?.*(?:\r?\n[ \t].*)*\r?\n/u;

/** Whether text begins with the header fields of a mail (RFC 5322, section 3.6: From and Date are required). */
function hasMailHeaders(beginning: Buffer): boolean {
  let rest = beginning
    .subarray(0, 64 * 1024)
    .toString('latin1')
    .replace(/^From .*\r?\n/u, '');
  const names = new Set<string>();
  for (let match = headerLine.exec(rest); match; match = headerLine.exec(rest)) {
    names.add(match[0].slice(0, match[0].indexOf(':')).toLowerCase());
    rest = rest.slice(match[0].length);
  }
  return names.has('from') && (names.has('date') || names.has('subject') || names.has('to'));
}

/** Whether a text begins as a web page does: declarations and comments, then the first tag. */
function isWebPage(beginning: Buffer): boolean {
  let rest = beginning
    .subarray(0, 8192)
    .toString('latin1')
    .replace(/^\u00ef\u00bb\u00bf/u, '')
    .trimStart();
  // Step by step: one pattern for all of it could be made to take without end.
  for (;;) {
    const ends = rest.startsWith('<!--') ? '-->' : /^<(?:\?xml|!doctype)/iu.test(rest) ? '>' : null;
    if (ends === null) return /^<html[\s>]/iu.test(rest);
    const end = rest.indexOf(ends);
    if (end === -1) return false;
    rest = rest.slice(end + ends.length).trimStart();
  }
}

/** The namespaces of bills as data (UBL 2.1, and UN/CEFACT's Cross Industry Invoice, D16B). */
const billNames =
  /urn:oasis:names:specification:ubl:schema:xsd:(?:Invoice|CreditNote)-2["']|urn:un:unece:uncefact:data:standard:CrossIndustryInvoice:100["']/u;

/** Whether a text begins as a bill as data does. One with a document type or a style sheet is none. */
function isBill(beginning: Buffer): boolean {
  const text = beginning.subarray(0, 8192).toString('latin1');
  return billNames.test(text) && !/<!DOCTYPE|<\?xml-stylesheet/iu.test(text);
}

/** The kind of a file, by its beginning; the name decides only between kinds that look alike. */
export async function sniffKind(beginning: Buffer, fileName: string): Promise<FileKind | null> {
  const [typed, magic] = await Promise.all([typeOf(beginning), magicTypeOf(beginning)]);
  const mediaTypes = [typed, magic].filter((each): each is string => typeof each === 'string');
  const textual = isTextual(beginning);
  return kindByContent(
    {
      mediaTypes,
      textual,
      mailHeaders: textual && hasMailHeaders(beginning),
      webPage: textual && isWebPage(beginning),
      bill: textual && isBill(beginning),
    },
    fileName,
  );
}
