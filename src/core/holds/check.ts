import { issue } from '../errors/issue';
import { bad, good, type Result } from '../errors/result';
import { conditionsIn, needsTally, type Conditions } from '../views/conditions';

const personal = ['own', 'openTo'];

/**
 * Refuses conditions that no hold can stand on: those that mean whoever looks, and those that only the tally can tell, which
 * is not asked when papers are destroyed.
 */
export function checkHeldConditions(conditions: Conditions): Result<null> {
  if (needsTally(conditions))
    return bad(
      issue(
        'invalid',
        'A hold cannot follow a view that looks for words, reviews or retention. Put it on the papers that are there now.',
      ),
    );
  const meansSomeone = conditionsIn(conditions).some(
    (each) =>
      'who' in each ||
      personal.includes(each.of) ||
      each.of === 'label' ||
      ('span' in each && 'is' in each.span && each.span.is === 'since-look'),
  );
  return meansSomeone
    ? bad(
        issue(
          'invalid',
          'A hold cannot follow a view that asks for you, for labels, or for what is new. Put it on the papers that are there now.',
        ),
      )
    : good(null);
}
