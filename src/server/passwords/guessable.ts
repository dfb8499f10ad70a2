import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common';
import { invalidField } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';

/** The fewest guesses a password has to withstand: level three of four of the estimator. */
const fewestGuesses = 1e8;

const held = globalThis as typeof globalThis & { embrinGuesser?: ZxcvbnFactory };

/**
 * Refuses a new password that is common, derived from the person's details, or repetitive (the blocklist of NIST SP
 * 800-63B-4, section 3.1.1.2). There are no composition rules.
 * @param known words associated with the person: name, address, the library's name
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
