import MailComposer from 'nodemailer/lib/mail-composer';
import { agreeToArrivals } from '@/server/intake/agree';
import { arrivalFields } from '@/server/intake/fields';
import { keepMail } from '@/server/intake/keep';
import { arrivalSheet } from '@/server/intake/read';
import { readArrivals } from '../arrivals';
import { dropLibrary } from '../library';
import { beginExpecting, find, keeper, now, slots } from './expecting';

beforeAll(beginExpecting);
afterAll(dropLibrary);

async function comes(subject: string): Promise<string> {
  const from = 'clerk@board.example';
  const raw = await new MailComposer({ from, to: 'brd@library.example', subject, text: `For BRD: ${subject}` })
    .compile()
    .build();
  const { arrivalId } = await keepMail(raw, { from, to: ['brd@library.example'] });
  await readArrivals();
  return arrivalId;
}

it('what is expected in the dossier decides where in it an arrival goes, and is met once it is agreed to', async () => {
  const arrivalId = await comes('Terms of reference');
  const { places, revision } = await now(() => arrivalSheet(keeper, { arrivalId }));
  expect(places[0]?.path.at(-1)).toBe('Terms');
  expect(places[0]?.expected).toMatch(/^“Terms of reference” is expected here, due 2 Apr 2026\.$/u);
  await now(() => arrivalFields(keeper, { arrivalId, placeId: places[0]?.placeId ?? '' }));
  expect((await now(() => agreeToArrivals(keeper, { arrivals: [{ id: arrivalId, revision }] }))).filed).toEqual([
    arrivalId,
  ]);
  expect(find(await slots(keeper), 'Terms of reference', null).state).toBe('met');
  // It is there now, and nothing of that name is expected any more.
  const { places: after } = await now(async () =>
    arrivalSheet(keeper, { arrivalId: await comes('Terms of reference, again') }),
  );
  expect(after[0]?.expected).toBeNull();
});

it('says nothing where no name of what is expected stands in it', async () => {
  const { places } = await now(async () => arrivalSheet(keeper, { arrivalId: await comes('A letter') }));
  expect(places[0]?.expected).toBeNull();
});
