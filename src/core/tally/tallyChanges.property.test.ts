import { agree, tallyOf } from '../../../tests/oracle/agree';
import { RandomLibrary } from '../../../tests/oracle/randomLibrary';

it('answers as the plainest evaluator does after papers came, changed and went and places changed, for 600 random views', () => {
  for (let seed = 1001; seed <= 1030; seed += 1) {
    const library = new RandomLibrary(seed, 25);
    const tally = tallyOf(library);
    for (let round = 0; round < 20; round += 1) {
      const what = (seed + round * 7) % 5;
      if (what === 0) tally.putPapers([library.put()]);
      else if (what === 1) tally.removePapers([library.remove()]);
      else if (what === 2) tally.putPlaces(library.changePlace());
      else tally.putPapers([library.changeOne()]);
      agree(tally, library);
    }
    expect(tally.papers).toBe(library.papers.size);
  }
});
