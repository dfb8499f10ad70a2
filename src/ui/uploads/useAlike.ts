'use client';

import { useEffect, useRef, useState } from 'react';
import type { SameContentPlace } from '@/core/uploads/model';
import { call } from '../server/call';
import { fileHash } from './fileHash';
import type { OfferedFile } from './offeredFiles';

/** What one question names. */
const mostAsked = 200;
/** Files together up to this size are read before they are sent, the first of them; the others are compared as they arrive. */
const mostRead = 2_000_000_000;

/** Papers with the same content as files that are offered, by the files' keys: found little by little, since files have to be read for it. */
export function useAlike(files: readonly OfferedFile[]): ReadonlyMap<string, SameContentPlace> {
  const [alike, setAlike] = useState<ReadonlyMap<string, SameContentPlace>>(new Map());
  const asked = useRef(new Set<string>());
  useEffect(() => {
    const going = { on: true };
    void findAlike(files, asked.current, going, (found) => setAlike((before) => new Map([...before, ...found])));
    return () => {
      going.on = false;
    };
  }, [files]);
  return alike;
}

/** Reads files and asks for papers with their content; `asked` are those that need not be asked for again. */
export async function findAlike(
  files: readonly OfferedFile[],
  asked: Set<string>,
  going: { readonly on: boolean },
  tell: (found: readonly (readonly [string, SameContentPlace])[]) => void,
): Promise<void> {
  let waiting: { readonly key: string; readonly sha256: string }[] = [];
  let read = 0;
  const ask = async (): Promise<void> => {
    const these = waiting;
    waiting = [];
    if (these.length === 0) return;
    const sha256s = these.map((each) => each.sha256);
    const places = await call('uploads.alike', { sha256s }).catch(() => null);
    if (places === null) return;
    for (const { key } of these) asked.add(key);
    const bySha256 = new Map(places.map((each) => [each.sha256, each]));
    tell(
      these.flatMap(({ key, sha256 }) => {
        const place = bySha256.get(sha256);
        return place ? [[key, place] as const] : [];
      }),
    );
  };
  for (const { key, file, refused } of files) {
    read += file.size;
    if (refused !== null || asked.has(key) || read > mostRead) continue;
    const sha256 = await fileHash(file);
    if (!going.on) return;
    if (sha256 !== null) waiting.push({ key, sha256 });
    if (waiting.length >= mostAsked) await ask();
  }
  await ask();
}
