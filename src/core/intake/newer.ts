import { searchKey } from '../text/fold';
import { endingOf } from '../files/title';
import { saysNothing } from './title';

/**
 * What people write behind a name when they change a paper: “v2”, “rev. 3”, “revised”, “final”, “draft 2”, “(2)”, “signed”
 * (common practice, no source).
 */
const mark =
  /[\s_.,-]*(?:\(\s*\d{1,2}\s*\)|\(?\s*\b(?:(?:v|ver|version|rev|revision|draft|entwurf|issue|copy|kopie)[\s._-]*\d{0,3}(?:\.\d{1,3})?|revised|corrected|amended|updated|final|signed|neu|korrigiert)\s*\)?)\s*$/iu;

/** A name without what was written behind it for its state. */
function stemOf(name: string): { readonly stem: string; readonly isMarked: boolean } {
  const ending = endingOf(name);
  let rest = ending === '' ? name : name.slice(0, -ending.length - 1);
  let isMarked = false;
  for (let found = mark.exec(rest); found && found.index > 0; found = mark.exec(rest)) {
    rest = rest.slice(0, found.index);
    isMarked = true;
  }
  return { stem: searchKey(rest.replaceAll(/[_.-]+/gu, ' ')), isMarked };
}

/**
 * Whether a file looks like a newer version of a paper, by their names: `surely` where it says itself that it is one; `maybe` where
 * the names are the same, which those of monthly statements are too; null: it does not.
 * @param names of the paper: its title, and what its file was called
 */
export function newerBy(name: string, names: readonly string[]): 'surely' | 'maybe' | null {
  const { stem, isMarked } = stemOf(name);
  if (stem.length < 4 || saysNothing.test(stem)) return null;
  const found = names.map(stemOf).find((each) => each.stem === stem);
  if (!found) return null;
  return isMarked ? 'surely' : 'maybe';
}
