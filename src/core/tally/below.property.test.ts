import { tallyOf } from '../../../tests/oracle/agree';
import { Naive } from '../../../tests/oracle/naive';
import { RandomLibrary } from '../../../tests/oracle/randomLibrary';
import { belowFrom } from './below';

it('counts what stands below places as looking at one paper at a time does', () => {
  let [some, several] = [0, 0];
  for (let seed = 1; seed <= 60; seed += 1) {
    const library = new RandomLibrary(seed);
    const tally = tallyOf(library);
    for (let round = 0; round < 6; round += 1) {
      const question = library.question();
      const asker = library.asker(question);
      const parent = library.places[(seed * 7 + round) % library.places.length];
      if (!parent) throw new Error('A library without places');
      const placeId = parent.id;
      const children = library.places.filter(
        ({ lineage }) => lineage.length === parent.lineage.length + 1 && lineage.at(-2) === placeId,
      );
      for (const placeIds of [children.map((place) => place.id), [placeId]]) {
        const told = belowFrom(tally, { placeId, placeIds }, asker);
        if (!told.ok) throw new Error(told.issue.says);
        const papers = new Naive(
          library.plain,
          { ...question, placeId, below: true, conditions: [] },
          asker,
        ).standing();
        const wanted = placeIds.map(
          (id) => papers.filter(({ places }) => places.some((place) => place.lineage.includes(id))).length,
        );
        expect(told.value).toEqual(wanted);
        const sum = wanted.reduce((all, count) => all + count, 0);
        some += sum;
        // A paper that is filed in two of the places counts in both.
        several += Number(placeIds.length > 1 && sum > papers.length);
      }
    }
  }
  expect([some > 2000, several > 0]).toEqual([true, true]);
});
