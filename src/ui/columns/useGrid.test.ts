/** @jest-environment jsdom */
import { act, renderHook } from '@testing-library/react';
import type { Column } from '@/core/columns/model';
import type { PaperRow } from '@/core/documents/model';
import { issue } from '@/core/errors/issue';
import { Refusal } from '@/core/errors/refusal';
import { call } from '../server/call';
import { useGrid } from './useGrid';

jest.mock('../kit/notice', () => ({ say: { refusal: jest.fn() } }));
jest.mock('../server/call', () => ({ call: jest.fn(), saysOf: () => 'The library cannot be reached.' }));
const server = call as unknown as jest.Mock<Promise<unknown>, [string, { cells: { text?: string; was: unknown }[] }]>;
beforeEach(() => server.mockReset());

const column = { id: 'status', name: 'Status', type: 'text' } as Column;
const papers = ['one', 'two'].map((id) => ({ id, title: id, values: { status: 'Draft' } }) as unknown as PaperRow);
const at = (row: number) => ({ row, column: 0 });
const saved = (value: string, entryId: number) =>
  Promise.resolve({ outcomes: [{ state: 'saved', value }], names: {}, entryId });
const grid = () => renderHook(() => useGrid(papers, [column])).result;

it('shows what was written before the list is asked for again, and says what it replaced', async () => {
  const hook = grid();
  server.mockReturnValueOnce(saved('Final', 7));
  await act(() => hook.current.write([{ cell: at(0), text: 'Final' }]));
  expect(server.mock.calls[0]?.[1].cells).toEqual([
    { documentId: 'one', columnId: 'status', text: 'Final', was: 'Draft' },
  ]);
  const [one, two] = papers as [PaperRow, PaperRow];
  expect([hook.current.valueAt(one, column), hook.current.valueAt(two, column)]).toEqual(['Final', 'Draft']);
  expect(hook.current.stateAt(one, column)).toEqual({ state: 'saved' });
});

it('undoes and redoes acts in their order, each under the entry that the server gave last', async () => {
  const hook = grid();
  const [one] = papers as [PaperRow];
  server.mockReturnValueOnce(saved('Second', 1)).mockReturnValueOnce(saved('Third', 2));
  await act(() => hook.current.write([{ cell: at(0), text: 'Second' }]));
  await act(() => hook.current.write([{ cell: at(0), text: 'Third' }]));
  server.mockResolvedValueOnce({ entryId: 3 }).mockResolvedValueOnce({ entryId: 4 });
  await act(() => hook.current.undo());
  expect(hook.current.valueAt(one, column)).toBe('Second');
  await act(() => hook.current.redo());
  expect(hook.current.valueAt(one, column)).toBe('Third');
  expect(server.mock.calls.slice(2)).toEqual([
    ['values.undo', { entryId: 2 }],
    ['values.undo', { entryId: 3 }],
  ]);
});

it('never lets an undo overtake the write that it undoes', async () => {
  const hook = grid();
  let answer: (value: unknown) => void = () => undefined;
  server.mockReturnValueOnce(new Promise((done) => (answer = done))).mockResolvedValueOnce({ entryId: 9 });
  await act(async () => {
    const writing = hook.current.write([{ cell: at(0), text: 'Late' }]);
    const undoing = hook.current.undo();
    answer(await saved('Late', 8));
    await Promise.all([writing, undoing]);
  });
  expect(server.mock.calls.map(([name]) => name)).toEqual(['papers.setCells', 'values.undo']);
});

it('keeps what was typed into a cell that was refused, and undoes nothing of it', async () => {
  const hook = grid();
  const [one] = papers as [PaperRow];
  server.mockRejectedValueOnce(new Refusal(issue('unavailable')));
  await act(() => hook.current.write([{ cell: at(0), text: 'Kept' }]));
  expect(hook.current.stateAt(one, column)).toMatchObject({ state: 'refused', text: 'Kept' });
  expect(hook.current.valueAt(one, column)).toBe('Draft');
  await act(() => hook.current.undo());
  expect(server).toHaveBeenCalledTimes(1);
});
