/** @jest-environment jsdom */
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { invalidField } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import { call } from '../server/call';
import { blankIsNone, useActForm } from './useActForm';

jest.mock('../server/call', () => ({ call: jest.fn(), saysOf: () => 'The library cannot be reached.' }));
const server = call as unknown as jest.Mock<Promise<unknown>, [string, unknown]>;
beforeEach(() => server.mockReset());

const done = jest.fn();
const defaults = {
  on: { kind: 'paper' as const, id: '00000000-0000-4000-8000-000000000001' },
  email: null,
  password: null,
  copies: false,
  until: '2026-12-31',
  mostOpenings: null,
  message: '',
};

function LinkForm({ onDone }: { readonly onDone?: typeof done }) {
  const { form, submit, wrong, refused } = useActForm('link.make', defaults, onDone);
  return (
    <form onSubmit={submit}>
      <input aria-label="email" {...form.register('email', blankIsNone)} />
      <p>{wrong('email') ?? refused ?? 'nothing is wrong'}</p>
      <button type="submit">Make</button>
    </form>
  );
}
const shown = (onDone?: typeof done) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <LinkForm {...(onDone ? { onDone } : {})} />
    </QueryClientProvider>,
  );
const type = (text: string) => fireEvent.change(screen.getByLabelText('email'), { target: { value: text } });
const send = () => act(async () => void fireEvent.click(screen.getByText('Make')));

it('says what the contract refuses at its field, and sends nothing', async () => {
  shown();
  type('nobody');
  await send();
  await waitFor(() => expect(screen.queryByText('nothing is wrong')).toBeNull());
  expect(server).not.toHaveBeenCalled();
});

it('sends what was typed, with none for a field that was left empty, and hands on the answer', async () => {
  server.mockResolvedValueOnce({ id: '1', link: 'https://', sent: false });
  shown(done);
  type('  ');
  await send();
  await waitFor(() => expect(done).toHaveBeenCalledWith({ id: '1', link: 'https://', sent: false }));
  expect(server).toHaveBeenCalledWith('link.make', defaults);
});

it('sends also where nobody waits for the answer', async () => {
  server.mockResolvedValueOnce({ id: '1', link: 'https://', sent: false });
  shown();
  await send();
  await waitFor(() => expect(server).toHaveBeenCalledWith('link.make', defaults));
});

it('says also what is wrong with what has no field here, and is never silent', async () => {
  server.mockRejectedValueOnce(new Refusal(invalidField('until', 'That day has passed.')));
  shown();
  await send();
  await waitFor(() => expect(screen.getByText('That day has passed.')).toBeTruthy());
});

it.each([
  ['a field at that field', invalidField('email', 'That address is taken.'), 'That address is taken.'],
  ['no field in particular by itself', { kind: 'unavailable', says: '' } as const, 'The library cannot be reached.'],
])('says what the server refuses of %s', async (_what, refusal, says) => {
  server.mockRejectedValueOnce(new Refusal(refusal));
  shown();
  await send();
  await waitFor(() => expect(screen.getByText(says)).toBeTruthy());
});
