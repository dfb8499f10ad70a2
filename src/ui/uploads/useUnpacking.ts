'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import { issue } from '@/core/errors/issue';
import { useSurroundings } from '../surroundings/Surroundings';
import type { OfferedFile } from './offeredFiles';
import { unpack, type OpenedArchive, type Unpacking } from './unpack';

/** An archive being unpacked: how many of its files are there. */
export interface UnderWay {
  readonly key: string;
  readonly done: number;
  readonly of: number;
}

/** How often the screen is told of what is unpacked. */
const toldEveryMs = 150;

/**
 * Offered files, of which archives can be unpacked: their files then stand in their place, without the folders that hold all
 * of them and without the values of their lists where that is chosen.
 */
export function useUnpacking(
  files: readonly OfferedFile[],
  setFiles: (turn: (files: OfferedFile[]) => OfferedFile[]) => void,
) {
  const { library } = useSurroundings();
  const [opened, setOpened] = useState<readonly OpenedArchive[]>([]);
  const [underWay, setUnderWay] = useState<UnderWay | null>(null);
  const [leadLeftOut, setLeadLeftOut] = useState(true);
  const [cellsTaken, setCellsTaken] = useState(true);
  const running = useRef<Unpacking | null>(null);
  useEffect(() => () => running.current?.stop(), []);

  function open(each: OfferedFile): void {
    running.current?.stop();
    let toldAt = 0;
    const tell = (done: number, of: number) => {
      if (performance.now() - toldAt < toldEveryMs) return;
      toldAt = performance.now();
      setUnderWay({ key: each.key, done, of });
    };
    setUnderWay({ key: each.key, done: 0, of: 0 });
    const begun = unpack(each, library, tell);
    running.current = begun;
    const replace = (others: readonly OfferedFile[]) =>
      setFiles((before) => before.flatMap((file) => (file.key === each.key ? others : [file])));
    const refuse = (says: string) => replace([{ ...each, refused: issue('invalid', says) }]);
    void begun.done
      .then((answer) => {
        if ('refused' in answer) return refuse(`${each.file.name} was not unpacked. ${answer.refused}`);
        setOpened((before) => [...before, answer.archive]);
        replace(answer.files);
      })
      .catch(() => refuse(`${each.file.name} was not unpacked: this computer has too little room for it.`))
      .finally(() => {
        if (running.current === begun) setUnderWay(null);
      });
  }

  function stop(): void {
    running.current?.stop();
    running.current = null;
    setUnderWay(null);
  }

  const shown = useMemo(() => {
    const leads = new Map(opened.map(({ key, lead }) => [key, lead]));
    return files.map((file) => {
      const lead = file.from === null ? '' : (leads.get(file.from) ?? '');
      return {
        ...file,
        relativePath: leadLeftOut && lead !== '' ? file.relativePath.slice(lead.length + 1) : file.relativePath,
        cells: cellsTaken ? file.cells : {},
      };
    });
  }, [files, opened, leadLeftOut, cellsTaken]);

  return { shown, opened, underWay, open, stop, leadLeftOut, setLeadLeftOut, cellsTaken, setCellsTaken };
}
