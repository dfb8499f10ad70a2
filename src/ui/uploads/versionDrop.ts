import type { VersionedPaper } from './uploadsContext';

/** What an element that shows a paper says of it, so that a file can be dropped on it. */
export const droppableOn = (paper: {
  readonly id: string;
  readonly title: string;
  readonly homeId: string;
  readonly homeName: string;
}) => ({
  'data-paper': paper.id,
  'data-paper-title': paper.title,
  'data-paper-home': paper.homeId,
  'data-paper-home-name': paper.homeName,
});

/** The paper that is shown where a drag or drop happened; null if there is none. */
export function paperUnder(target: EventTarget | null): VersionedPaper | null {
  const shown = target instanceof Element ? target.closest<HTMLElement>('[data-paper]') : null;
  if (!shown) return null;
  const { paper = '', paperTitle = '', paperHome = '', paperHomeName = '' } = shown.dataset;
  return { id: paper, title: paperTitle, place: { id: paperHome, name: paperHomeName } };
}
