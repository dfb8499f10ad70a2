import { visible } from '../files/title';

/**
 * The folders of a path, from the top: `Agendas/2026`. Steps such as `..` and empty ones are left out, so that a path cannot
 * lead upwards, and so are characters that are not seen.
 */
export const stepsOf = (relativePath: string): string[] =>
  relativePath
    .split(/[/\\]/u)
    .map(visible)
    .filter((step) => step !== '' && !/^\.+$/u.test(step));
