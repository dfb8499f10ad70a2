import { mayHold, mayHoldPapers, placeKinds, type PlaceKind } from '../tree/placeKind';

it('holds series in the library, dossiers in series, years in dossiers, and folders in all but the library', () => {
  const allowed = placeKinds.flatMap((holder) =>
    placeKinds.filter((held) => mayHold(holder, held)).map((held) => `${holder} > ${held}`),
  );
  expect(allowed.sort()).toEqual(
    [
      'library > series',
      'series > dossier',
      'series > folder',
      'dossier > year',
      'dossier > folder',
      'year > folder',
      'folder > folder',
    ].sort(),
  );
});

it('can never hold a kind in itself but folders, so that no year lies in a year', () => {
  for (const kind of placeKinds) expect(mayHold(kind, kind)).toBe(kind === 'folder');
});

it('files papers anywhere but on the bare library', () => {
  expect(placeKinds.filter((kind: PlaceKind) => !mayHoldPapers(kind))).toEqual(['library']);
});
