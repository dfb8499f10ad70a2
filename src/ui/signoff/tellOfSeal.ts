import { sealInWords } from '@/core/signoff/words';
import { say } from '../kit/notice';
import { call, saysOf } from '../server/call';

/** Checks the seals of a PDF, byte by byte, and tells what came of it. */
export function tellOfSeal(documentId: string): void {
  void call('seal.check', { documentId }).then(
    (seals) => {
      const isRight = seals.every(({ state }) => state === 'whole');
      (isRight ? say.done : say.refusal)(sealInWords(seals));
    },
    (error: unknown) => say.refusal(saysOf(error)),
  );
}
