import { nameKey } from '../text/fold';
import { endingOf } from '../files/title';

/** Characters that no file name may have on one system or another, and those that are not seen. (Common practice; from memory.) */
const forbidden = /[<>:"/\\|?*\p{Cc}\p{Cs}\u2028\u2029\u200e\u200f\u061c\u202a-\u202e\u2066-\u2069]/gu;
/** Names that Windows keeps for devices, whatever ending they have. (From memory.) */
const device = /^(?:con|prn|aux|nul|com\d|lpt\d)(?:\.|$)/iu;
/** A part of a path is cut to so many characters: the shortest limit among usual systems is 255 bytes. */
const mostCharacters = 80;

/** A name as a part of a path that every system takes. */
export function safePart(name: string): string {
  const plain = [...name.normalize('NFC').replace(forbidden, '_')].slice(0, mostCharacters).join('');
  const ended = plain.replace(/^\s+|[. ]+$/gu, '');
  if (ended === '') return '_';
  return device.test(ended) ? `_${ended}` : ended;
}

/** A paper's title as the name of its file: with the ending of the file that it was filed as. */
export function fileNameOf(title: string, filedAs: string): string {
  const ending = endingOf(filedAs);
  const safe = safePart(title);
  return ending === '' || endingOf(safe) === ending ? safe : `${safe}.${ending}`;
}

/** Paths of an archive: each once, also where a system does not tell capitals from small letters. */
export class EntryNames {
  readonly #taken = new Set<string>();

  /** A path with its name numbered where it is taken: `Minutes (2).pdf`. */
  take(folders: readonly string[], fileName: string): string {
    const folder = folders.map(safePart).join('/');
    const ending = endingOf(fileName);
    const base = ending === '' ? fileName : fileName.slice(0, -(ending.length + 1));
    for (let number = 1; ; number += 1) {
      const numbered = number === 1 ? base : `${base} (${number})`;
      const path = [folder, ending === '' ? numbered : `${numbered}.${ending}`].filter(Boolean).join('/');
      const key = nameKey(path);
      if (this.#taken.has(key)) continue;
      this.#taken.add(key);
      return path;
    }
  }
}
