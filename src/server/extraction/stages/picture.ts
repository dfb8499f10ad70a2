import { eq } from 'drizzle-orm';
import { shownForm } from '@/core/reading/form';
import { reading } from '../../db/schema';
import { drawPage } from '../pages';
import { done, nothing, type RunStage } from './stageEnd';

/** The longer side of a first page's picture, in pixels. */
const pictureSize = 560;

/** Draws the first page's picture. */
export const runPicture: RunStage = async (opened) => {
  const pages = opened.formFailed ? null : await opened.pages();
  const isPicture = shownForm(opened.mediaType) === 'picture';
  const picture = pages
    ? await drawPage(pages, 'pages', 1, pictureSize)
    : isPicture && !opened.formFailed
      ? await drawPage(await opened.file(), 'picture', 1, pictureSize)
      : null;
  return {
    ...(picture ? done : nothing),
    write: async (tx) =>
      void (await tx.update(reading).set({ picture }).where(eq(reading.sha256, opened.content.sha256))),
  };
};
