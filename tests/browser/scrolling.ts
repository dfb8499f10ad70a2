import type { WebElement } from 'selenium-webdriver';
import type { Browser } from './browser';

/** Where, scrolling by 120 steps and some leaps, the rows that are drawn and have a text do not cover all that is in sight. */
export const blankAt = (browser: Browser, grid: WebElement, leaps: number): Promise<string[]> =>
  browser.driver.executeAsyncScript<string[]>(
    `const [grid, far, done] = arguments;
     const height = grid.clientHeight;
     const leaps = [0, ...Array.from({ length: 120 }, (_, step) => step * 90), ...Array.from({ length: far }, (_, step) => (step * 7919 * 34) % (grid.scrollHeight - height))];
     if (far > 0) leaps.push(grid.scrollHeight - height);
     const blank = [];
     const covered = () => {
       const heading = grid.querySelector('[role=columnheader]')?.closest('[role=row]');
       const top = heading ? heading.getBoundingClientRect().bottom : grid.getBoundingClientRect().top;
       let bottom = top;
       for (const row of [...grid.querySelectorAll('[role=row]:not(:has([role=columnheader]))')].map((each) => ({ box: each.getBoundingClientRect(), text: each.innerText })).sort((a, b) => a.box.top - b.box.top)) {
         if (row.box.top <= bottom + 1 && row.text.trim().length > 3) bottom = Math.max(bottom, row.box.bottom);
       }
       return Math.round(grid.getBoundingClientRect().top + height - bottom);
     };
     const next = () => {
       const to = leaps.shift();
       if (to === undefined) return done(blank);
       grid.scrollTop = to;
       // Two frames: the one in which the scroll is told, and the one in which its rows are painted.
       requestAnimationFrame(() => requestAnimationFrame(() => { const gap = covered(); if (gap > 1) blank.push(to + ': ' + gap + ' px'); next(); }));
     };
     next();`,
    grid,
    leaps,
  );
