/** @jest-environment jsdom */
import { act, renderHook, waitFor } from '@testing-library/react';
import { withNuqsTestingAdapter, type UrlUpdateEvent } from 'nuqs/adapters/testing';
import type { SavedView } from '@/core/views/saved';
import { plainView } from '@/core/views/spec';
import { useViewState } from './useViewState';

const covers = {
  id: 'covers-view',
  name: 'Covers',
  spec: { ...plainView, layout: 'covers', sorts: [{ of: 'pages', direction: 'down' }] },
} as unknown as SavedView;

function opened(address: string, opensId: string | null = null, hasFront = false) {
  const addresses: string[] = [];
  const hook = renderHook(() => useViewState([covers], opensId, plainView, hasFront), {
    wrapper: withNuqsTestingAdapter({
      searchParams: address,
      hasMemory: true,
      onUrlUpdate: (event: UrlUpdateEvent) => addresses.push(event.queryString),
    }),
  });
  return { view: () => hook.result.current, addresses };
}

it('opens the view that the address names, or the one that opens here by itself', () => {
  expect(opened('?view=covers-view').view()).toMatchObject({ saved: covers, changed: false, gone: false });
  expect(opened('', 'covers-view').view().spec.layout).toBe('covers');
  expect(opened('?view=plain', 'covers-view').view()).toMatchObject({ saved: null, gone: false });
});

it('says of a view that is not there that it is gone, and shows the plain list', () => {
  expect(opened('?view=elsewhere').view()).toMatchObject({ saved: null, gone: true, spec: plainView });
});

it('puts into the address what differs from the saved view, and nothing else', async () => {
  const { view, addresses } = opened('?view=covers-view');
  act(() => view().setSpec({ layout: 'ledger' }));
  await waitFor(() => expect(addresses.at(-1)).toBe('?view=covers-view&layout=ledger'));
  expect(view().changed).toBe(true);
  act(() => view().setSpec({ layout: 'covers' }));
  await waitFor(() => expect(addresses.at(-1)).toBe('?view=covers-view'));
  expect(view().changed).toBe(false);
});

it('names the plain list in the address where something else opens first', async () => {
  const { view, addresses } = opened('', null, true);
  act(() => view().openView(null));
  await waitFor(() => expect(addresses.at(-1)).toBe('?view=plain'));
});

it.each(['?sort=,,,', '?if={"of":1}', '?by=[1]', '?frozen=-9', '?size=huge', '?layout=none'])(
  'reads an address that says nothing as the plain list: %s',
  (address) => {
    const { frozen, ...spec } = opened(address).view().spec;
    expect({ ...spec, sorts: plainView.sorts }).toEqual({ ...plainView, frozen: undefined });
    expect(frozen).toBeGreaterThanOrEqual(0);
  },
);
