/** Ways in which a paper is somebody's own, whoever asks: nobody else is told of them. */
export const ownWays = ['in-hand', 'bookmarked', 'passed-to-me', 'passed-to-my-groups', 'passed-by-me'] as const;
export type OwnWay = (typeof ownWays)[number];

/** What each is called. */
export const ownWayWords: Readonly<Record<OwnWay, string>> = {
  'in-hand': 'in hand',
  bookmarked: 'bookmarked',
  'passed-to-me': 'passed to me by name',
  'passed-to-my-groups': 'passed to a group of mine',
  'passed-by-me': 'passed on by me',
};

/** Whether a value is the name of one. */
export const isOwnWay = (value: unknown): value is OwnWay => ownWays.some((way) => way === value);
