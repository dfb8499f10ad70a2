import { z } from 'zod';
import { act, ask } from '../operation/operation';
import {
  blocks,
  bookmarkKinds,
  type Arrangement,
  type Bookmark,
  type Figures,
  type Lacking,
  type OpenedPaper,
} from './model';
import type { NewsLine } from './news';

const id = z.uuid();

/** The address of a search, as it is bookmarked. */
const searchAddress = z.string().regex(/^\/find\?[^\s]+$/u);
const on = z
  .object({ kind: z.enum(bookmarkKinds), ref: z.string().max(4000) })
  .refine(
    ({ kind, ref }) => (kind === 'search' ? searchAddress : id).safeParse(ref).success,
    'That cannot be bookmarked.',
  );
const each = z.array(z.enum(blocks)).max(50).readonly();

/** So many bookmarks a person has at most. */
export const mostBookmarks = 500;

/** Questions and acts about a person's desk. All of it is theirs alone. */
export const deskContract = {
  'desk.arrangement': ask<Arrangement>()(z.object({})),
  'desk.arrange': act()(z.object({ order: each, folded: each, leftOut: each })),
  'desk.lately': ask<readonly OpenedPaper[]>()(z.object({})),
  /** What anyone changed lately, or what the caller filed: papers changed together are one line. */
  'desk.news': ask<readonly NewsLine[]>()(z.object({ whose: z.enum(['all', 'mine']) })),
  /** Values missing in what the caller filed. */
  'desk.lacking': ask<readonly Lacking[]>()(z.object({})),
  /** Whom to ask for access: the keepers whom the caller may know of. */
  'desk.keepers': ask<readonly { readonly name: string; readonly email: string }[]>()(z.object({})),
  'desk.figures': ask<Figures>()(z.object({})),
  'bookmarks.mine': ask<readonly Bookmark[]>()(z.object({})),
  /** `name`: what a search is called; of anything else its own name is shown. */
  'bookmark.put': act()(z.object({ on, name: z.string().trim().max(200) })),
  'bookmark.remove': act()(z.object({ on })),
  /** Moves a bookmark before another; null: to the end. */
  'bookmark.reorder': act()(z.object({ on, before: on.nullable() })),
};
