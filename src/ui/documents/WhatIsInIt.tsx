'use client';

import { useState } from 'react';
import type { PaperDocket } from '@/core/documents/model';
import { dayInWords } from '@/core/calendar/moment';
import { readingFaultWords } from '@/core/reading/fault';
import { isUnderWay, readingStateWords } from '@/core/reading/stages';
import { languageName } from '@/core/text/language';
import { Button } from '../kit/button';
import { useAct } from '../server/useCall';

/** What reading found in a paper, and how far it has come. */
export function WhatIsInIt({ paper, mayAmend }: { readonly paper: PaperDocket; readonly mayAmend: boolean }) {
  const { facts, reading } = paper;
  const again = useAct('paper.readAgain');
  const [isWhole, setWhole] = useState(false);
  const shown = isWhole ? facts.summary : facts.summary.slice(0, 1);
  return (
    <div className="space-y-1.5">
      {shown.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
      {facts.summary.length > 1 && (
        <Button look="quiet" className="!h-[24px] !px-0" aria-expanded={isWhole} onClick={() => setWhole(!isWhole)}>
          {isWhole ? 'Less' : 'More of its own words'}
        </Button>
      )}
      {facts.keyWords.length > 0 && (
        <p className="text-soft">
          <span className="sr-only">Key words: </span>
          {facts.keyWords.slice(0, 6).join(' · ')}
        </p>
      )}
      {facts.references.length > 0 && (
        <p className="break-words text-soft">Names {facts.references.slice(0, 6).join(', ')}</p>
      )}
      {facts.days.length > 0 && (
        <p className="figures text-soft">
          Names{' '}
          {facts.days
            .slice(0, 4)
            .map((day) => dayInWords(`${day}T12:00:00Z`, 'UTC'))
            .join(', ')}
        </p>
      )}
      {facts.title !== null && facts.title !== paper.title && (
        <p className="text-soft">{`The file calls itself “${facts.title}”${facts.author === null ? '' : `, by ${facts.author}`}.`}</p>
      )}
      <p className="flex flex-wrap items-center gap-x-2 text-soft">
        <span role="status">
          {reading.state === 'read' && facts.language !== null
            ? `Read: in ${languageName(facts.language)}`
            : readingStateWords[reading.state]}
          {reading.why !== null && `. ${readingFaultWords[reading.why]}`}
        </span>
        {mayAmend && !isUnderWay(reading) && (
          <Button
            look="quiet"
            className="!h-[24px] !px-0"
            disabled={again.isPending}
            onClick={() => again.mutate({ documentId: paper.id })}
          >
            Read again
          </Button>
        )}
      </p>
    </div>
  );
}
