import { momentInWords } from '../calendar/moment';

/** The mark on the pages of someone who may not have copies: who reads, and when. `at` is an ISO 8601 instant. */
export const readerMark = (reader: string, at: string, timeZone: string): string =>
  `Read by ${reader}, ${momentInWords(at, timeZone).replace(/:\d\d \(.*$/u, '')}`;
