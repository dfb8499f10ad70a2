/**
 * Stems all words of Snowball's own vocabulary of a language (Debian's `snowball-data`) and prints, as JSON, how many words there are
 * and how many of the stems differ from Snowball's. In a process of its own: the loader of tests makes it fifty times as slow.
 */
import { readFileSync } from 'node:fs';
import { stemOf, type StemmedLanguage } from '@/core/search/stem';

const [, , code, name] = process.argv;
const lines = (file: string): string[] =>
  readFileSync(`/usr/share/snowball/data/${name}/${file}.txt`, 'utf8').split('\n').filter(Boolean);
const [words, stems] = [lines('voc'), lines('output')];
const differ = words.filter((word, at) => stemOf(word, code as StemmedLanguage) !== stems[at]).length;
process.stdout.write(JSON.stringify({ words: words.length, differ }));
