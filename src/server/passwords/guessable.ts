import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { invalidField } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';

/** As many guesses as a password has to be good for; the measure's own third step of four. */
const fewestGuesses = 1e8;

const held = globalThis as typeof globalThis & { embrinGuesser?: ZxcvbnFactory };

/**
 * Refuses a new password that is commonly used, is made of what is known of the person, or repeats itself (the blocklist of
 * NIST SP 800-63B-4, section 3.1.1.2). Rules of composition there are none.
 * @param known words that belong to the person: name, address, the library.
 * @throws Refusal `invalid` for the field
 */
export function requireUnguessable(field: string, password: string, known: readonly string[]): void {
  held.embrinGuesser ??= new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs });
  const { guesses } = held.embrinGuesser.check(password, [
    'embrin',
    ...known.flatMap((each) => [each, ...each.split(/[\s@.]+/u)]).filter((each) => each !== ''),
  ]);
  if (guesses < fewestGuesses)
    throw new Refusal(
      invalidField(
        field,
        'That is among the first that someone guessing would try. Take a few words that are yours alone.',
      ),
    );
}
