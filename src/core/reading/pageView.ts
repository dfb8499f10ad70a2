/** How the pages of a paper are shown. */
export interface PageView {
  /** Pages as wide as the room, or whole pages; null: at `percent` of their printed size. */
  readonly fit: 'width' | 'page' | null;
  readonly percent: number;
  /** Two pages side by side. */
  readonly spread: boolean;
  /** Turned clockwise, in degrees. */
  readonly turned: 0 | 90 | 180 | 270;
}

/** How a paper is first shown. */
export const firstView: PageView = { fit: 'width', percent: 100, spread: false, turned: 0 };

/** What can be done to it. `larger` and `smaller` go on from the size at which a page is shown now. */
export type PageViewStep =
  | { readonly to: 'larger' | 'smaller'; readonly nowPercent: number }
  | { readonly to: 'fitWidth' | 'fitPage' | 'spread' | 'turn' };

const steps = [25, 33, 50, 67, 80, 100, 125, 150, 200, 300, 400] as const;

/** How pages are shown after a step. */
export function nextView(view: PageView, step: PageViewStep): PageView {
  switch (step.to) {
    case 'larger':
      return {
        ...view,
        fit: null,
        percent: steps.find((each) => each > step.nowPercent + 1) ?? steps[steps.length - 1] ?? 400,
      };
    case 'smaller':
      return {
        ...view,
        fit: null,
        percent: [...steps].reverse().find((each) => each < step.nowPercent - 1) ?? steps[0],
      };
    case 'fitWidth':
      return { ...view, fit: 'width' };
    case 'fitPage':
      return { ...view, fit: 'page' };
    case 'spread':
      return { ...view, spread: !view.spread };
    case 'turn':
      return { ...view, turned: ((view.turned + 90) % 360) as PageView['turned'] };
  }
}

/** The width at which an A4 page of 100 % is shown: 96 dots to the inch. */
const printedWidth = 794;
/** The room around pages, in pixels. */
export const pageGap = 16;
/** Wider pages are hard to read: a line has its end too far from its beginning. In pixels. */
export const widestPage = 1100;

/**
 * The width of one page as it stands on the screen, in pixels.
 * @param room the width and height there is; `ratio` a page's height by its width, as it stands when not turned
 */
export function pageWidth(
  view: PageView,
  room: { readonly width: number; readonly height: number },
  ratio: number,
): number {
  const beside = view.spread ? 2 : 1;
  const high = view.turned % 180 === 0 ? ratio : 1 / ratio;
  const forWidth = Math.max(80, (room.width - pageGap * (beside + 1)) / beside);
  if (view.fit === 'width') return Math.floor(Math.min(forWidth, widestPage));
  if (view.fit === 'page') return Math.floor(Math.min(forWidth, Math.max(80, (room.height - 2 * pageGap) / high)));
  return Math.round((printedWidth * view.percent) / 100);
}

/** The percentage of its printed size at which a page of that width is shown. */
export const percentOf = (width: number): number => Math.round((width / printedWidth) * 100);
